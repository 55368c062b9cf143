import type { Change } from "@/core/changes/change";
import type { GrantRecord, ItemRecord, LinkRecord } from "@/core/estate/records";
import { allCarriedOut, applyDocket, dropDocket } from "@/server/dockets/executor";
import { showOnce } from "@/server/dockets/passphrases";
import { docketView } from "@/server/dockets/receipts";
import { stage, trayOf } from "@/server/dockets/tray";
import { prepareUndo } from "@/server/dockets/undo";
import { shareHandlers } from "@/server/register/shareHandlers";
import { verifyLedger } from "@/server/records/ledger/verify";
import { noticeWords } from "@/core/changes/telling";
import { NOTHING_ASKED } from "@/core/trail/search";
import { type EventWatch, watchSchema } from "@/core/trail/watch";
import { noticesView, sendNotices } from "@/server/dockets/notices";
import { writing } from "@/server/platform/db/open";
import { saveWatch } from "@/server/trail/watches";
import { standingOrders } from "@/server/dockets/standingOrders";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, grant, group, inDays, item, link, NOW } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(60_000);

const ADMIN = "admin@home.example";
const OPEN_LINKS = watchSchema.parse({
  ...{ kind: "events", search: { ...NOTHING_ASKED, verbs: ["shared-open"] }, many: null, severity: "urgent" },
  ...{ mail: [], webhook: false, syslog: false, mostADay: 20, quiet: null, zone: "UTC" },
}) as EventWatch;
let house: House;

beforeEach(async () => {
  house = await openHouse({
    stacks: [
      ...PEOPLE,
      ...group("crew", "out").map((one) => (one.type === "group" ? { ...one, storeId: "stacks" } : one)),
      item("opera", null, inStacks),
      file("plan", "opera", inStacks),
      file("rider", "opera", inStacks),
      link("open", "plan", { address: "OPEN", password: true, createdBy: "ida" }),
      link("bare", "plan", { address: "BARE", createdBy: "ida" }),
      link("own", "rider", {
        reach: "named",
        recipients: [{ email: "ivo@home.example" }, { email: "out@quay.example" }],
      }),
      grant("right", "opera", "out", { role: "edit", grantedBy: "ida" }),
    ],
    alcoves: [],
    dock: [],
  });
});
afterEach(() => house.close());

const stacks = () => house.stores.stacks.db;
const linkIn = (id: string) => stacks().get<LinkRecord>("link", id)!;
const grantIn = (id: string) => stacks().get<GrantRecord>("grant", id)!;
const madeAnew = () =>
  stacks()
    .after(0, 100)
    .flatMap(({ record }) => (record.type === "link" && record.id.length > 10 ? [record] : []));

/** Stages and applies; the docket's id. */
async function carriedOut(...changes: Change[]): Promise<string> {
  await stage(house.app, ADMIN, changes);
  const { docketId } = await trayOf(house.app, ADMIN);
  await apply(docketId!);
  return docketId!;
}

async function apply(docketId: string) {
  await applyDocket(house.app, docketId, ADMIN);
  await allCarriedOut(house.app);
}

async function statesOf(docketId: string): Promise<string[]> {
  const { receipts } = await docketView(house.app, docketId);
  return receipts.map(({ subject, state }) => `${subject}: ${state}`);
}

test("all of a docket is taken back by a docket that waits, is previewed, and is applied like any other", async () => {
  const before = { own: linkIn("own"), right: grantIn("right") };
  const docketId = await carriedOut(
    { action: "revoke", shareId: "right" },
    { action: "drop-recipient", shareId: "own", address: "out@quay.example" },
    { action: "set-expiry", shareId: "bare", expiresAt: inDays(9) },
    { action: "block-download", shareId: "bare" },
    { action: "set-expiry", shareId: "own", expiresAt: inDays(20) },
    { action: "leave-group", groupId: "crew", address: "out@quay.example" },
    { action: "stop-inheriting", itemId: "rider" },
    { action: "hand-over", itemId: "opera", address: "ivo@home.example", links: [] },
  );
  expect((await statesOf(docketId)).filter((one) => !one.endsWith("done"))).toEqual([]);
  expect(await standingOrders(house.db)).toHaveLength(1);

  const { docketId: undoId, not } = await prepareUndo(house.app, docketId, null, ADMIN);
  expect(not).toEqual([]);
  const waiting = await docketView(house.app, undoId);
  expect([waiting.progress.state, waiting.origin]).toEqual(["waiting", "undo"]);
  expect(waiting.preview!.impossible).toEqual([]);
  expect(waiting.preview!.people).toMatchObject([
    { address: "out@quay.example", gains: { names: ["Item opera", "Item rider"] } },
    { address: "ivo@home.example", loses: { names: ["Item opera"] } },
    { address: "ida@home.example", gains: { names: ["Item opera"] } },
  ]);
  await apply(undoId);

  expect((await statesOf(undoId)).filter((one) => !one.endsWith("done"))).toEqual([]);
  expect(grantIn("right")).toEqual({ ...before.right, revokedAt: null });
  expect(linkIn("own").recipients).toEqual(before.own.recipients);
  expect([linkIn("bare").expiresAt, linkIn("bare").download]).toEqual([null, true]);
  expect(stacks().membersOf("crew")).toHaveLength(1);
  expect(stacks().get<ItemRecord>("item", "rider")!.inherits).toBe(true);
  expect(stacks().get<ItemRecord>("item", "opera")!.ownerId).toBe("ida");
  expect(await standingOrders(house.db)).toEqual([]);
  expect((await docketView(house.app, docketId)).receipts.map(({ undone }) => undone?.docketId)).toEqual(
    Array(8).fill(undoId),
  );
  await expect(prepareUndo(house.app, docketId, null, ADMIN)).rejects.toThrow("nothing in this docket");
  expect((await verifyLedger(house.db)).unbroken).toBe(true);
});

test("of a share that has ended it is known who ended it and when, and by which docket", async () => {
  const ended = (id: string) => shareHandlers.endedShare(house.app, { params: { id } } as never);
  const docketId = await carriedOut({ action: "revoke", shareId: "own" });
  const said = { docketId, by: ADMIN, endedAt: NOW, itemName: "Item rider" };
  expect(await ended("own")).toMatchObject(said);
  // Somebody ended another in its store.
  stacks().put({ ...linkIn("bare"), revokedAt: inDays(-1) });
  await house.read();
  expect(await ended("bare")).toMatchObject({ docketId: null, by: null, endedAt: inDays(-1), itemName: "Item plan" });
  await expect(ended("nothing")).rejects.toThrow(
    "No share with this address was ever known here. Search for its item in the register.",
  );
});

test("what we do ourselves is on the trail as ours, and alerts nobody who did it", async () => {
  const saved = (name: string, mail: string[]) =>
    writing(house.db, (tx) => saveWatch(tx, ADMIN, { name, watch: { ...OPEN_LINKS, mail }, isOn: true, since: 0 }));
  await saved("Told to whoever does it", [ADMIN]);
  await saved("Told to another too", [ADMIN, "other@home.example"]);
  const docketId = await carriedOut({ action: "revoke", shareId: "bare" });
  const { docketId: undoId } = await prepareUndo(house.app, docketId, null, ADMIN);
  await apply(undoId);
  await house.read();
  const { events } = await house.app.engine.ask("events", { search: NOTHING_ASKED, count: 50 });
  expect(events.map(({ verb, remarks }) => [verb, remarks])).toEqual([
    ["shared-open", ["ours"]],
    ["revoked", ["ours"]],
  ]);
  const alerts = await house.db.selectFrom("alert").innerJoin("watch", "watch.id", "watch_id").select("name").execute();
  expect(alerts).toEqual([{ name: "Told to another too" }]);
  expect(await house.db.selectFrom("notice").select("target").execute()).toEqual([{ target: "other@home.example" }]);
  // Somebody else's link alerts both.
  await house.share("stacks", { itemId: "plan", by: "ida", reach: "open" });
  await house.read();
  const told = await house.db.selectFrom("notice").select("target").orderBy("target").execute();
  expect(told.map(({ target }) => target)).toEqual([ADMIN, ADMIN, "other@home.example", "other@home.example"]);
});

test("a part of it: a link that was revoked comes back as a new one, and says who has to be told", async () => {
  const docketId = await carriedOut(
    { action: "revoke", shareId: "open" },
    { action: "revoke", shareId: "own" },
    { action: "revoke", shareId: "bare" },
  );
  const { docketId: undoId } = await prepareUndo(house.app, docketId, ["open", "own"], ADMIN);
  const { preview, receipts } = await docketView(house.app, undoId);
  expect(preview!.newAddresses.map(({ shareId, addresses }) => [shareId, addresses])).toEqual([
    ["own", ["ivo@home.example", "out@quay.example"]],
    ["open", ["ida@home.example"]],
  ]);
  expect(receipts.map(({ subject }) => subject)).toEqual(["own anew", "open anew"]);
  await apply(undoId);
  const made = madeAnew();
  expect(made.map(({ reach, password, revokedAt }) => [reach, password, revokedAt])).toEqual(
    expect.arrayContaining([
      ["named", false, null],
      ["open", true, null],
    ]),
  );
  expect(made.map(({ address }) => address)).not.toContain("OPEN");
  expect(linkIn("bare").revokedAt).toBeTruthy();
  // The old password is known to nobody: the new link has one of its own, shown once.
  const withPassphrase = (await docketView(house.app, undoId)).receipts.filter(({ passphrase }) => passphrase !== null);
  expect(withPassphrase.map(({ subject }) => subject)).toEqual(["open anew"]);
  // The receipts and the mails name the same people as the preview did, and each mail has its address.
  const done = await docketView(house.app, undoId);
  expect(done.receipts.map(({ subject, tell }) => [subject, tell])).toEqual([
    ["own anew", ["ivo@home.example", "out@quay.example"]],
    ["open anew", ["ida@home.example"]],
  ]);
  const { telling } = await noticesView(house.app, undoId);
  const addresses = telling.recipients.map(({ address }) => address);
  expect(addresses).toEqual(["ida@home.example", "ivo@home.example", "out@quay.example"]);
  const words = noticeWords("recipients", { name: null, reason: null });
  await sendNotices(house.app, undoId, { audience: "recipients", ...words, addresses }, ADMIN);
  await house.tick();
  const addressOf = (reach: string) => made.find((one) => one.reach === reach)!.address!;
  const textTo = (who: string) => house.mails.find(({ to }) => [to].flat()[0]?.text === who)!.text!;
  expect(textTo("ida@home.example")).toContain(addressOf("open"));
  expect(textTo("ida@home.example")).toContain("pass it on to those who need it");
  expect(textTo("out@quay.example")).toContain(addressOf("named"));
  expect(await showOnce(house.app, withPassphrase[0].passphrase!, ADMIN)).toMatch(/^\w+(-\w+){5}$/);

  const again = await prepareUndo(house.app, undoId, null, ADMIN);
  await apply(again.docketId);
  expect(madeAnew().every(({ revokedAt }) => revokedAt)).toBe(true);
});

test("what can't be taken back is told; and a docket that is sent away takes nothing back", async () => {
  const docketId = await carriedOut({ action: "set-password", shareId: "bare" });
  const first = await prepareUndo(house.app, docketId, null, ADMIN);
  await dropDocket(house.app, first.docketId, ADMIN);
  const second = await prepareUndo(house.app, docketId, null, ADMIN);
  await apply(second.docketId);
  expect(linkIn("bare").password).toBe(false);
  const known = await carriedOut({ action: "set-password", shareId: "open", replace: true });
  await expect(prepareUndo(house.app, known, null, ADMIN)).rejects.toThrow(
    "Nobody here knows the earlier password. Set a new one.",
  );
});

test("two who take the same back at the same time don't both do it", async () => {
  const docketId = await carriedOut({ action: "revoke", shareId: "bare" });
  const both = await Promise.allSettled([1, 2].map(() => prepareUndo(house.app, docketId, null, ADMIN)));
  expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
});

test("a share that somebody has changed since it was to be taken back is left as it is", async () => {
  const docketId = await carriedOut({ action: "set-expiry", shareId: "bare", expiresAt: inDays(9) });
  const { docketId: undoId } = await prepareUndo(house.app, docketId, null, ADMIN);
  stacks().put({ ...linkIn("bare"), expiresAt: inDays(2) });
  await apply(undoId);
  expect(await statesOf(undoId)).toEqual(["bare back: set-aside"]);
  expect(linkIn("bare").expiresAt).toBe(inDays(2));
});

test("a share that was over and was opened again is ended", async () => {
  stacks().put({ ...grantIn("right"), expiresAt: inDays(-3) });
  await house.read();
  await stage(house.app, ADMIN, [
    { action: "set-expiry", shareId: "right", expiresAt: inDays(9), reopen: true },
    { action: "set-expiry", shareId: "bare", expiresAt: inDays(9), reopen: true },
  ]);
  const { docketId, preview, changes } = await trayOf(house.app, ADMIN);
  expect(preview!.reopened.map(({ shareId }) => shareId)).toEqual(["right"]);
  // The other one isn't over: there is nothing to open again, and its undo ends nothing.
  expect(changes.map(({ change }) => "reopen" in change)).toEqual([true, false]);
  await expect(applyDocket(house.app, docketId!, ADMIN)).rejects.toThrow(
    "1 ended share opens again with this docket. Nothing was applied: confirm that, or remove it.",
  );
  await applyDocket(house.app, docketId!, ADMIN, { reopened: 1 });
  await allCarriedOut(house.app);
  expect(grantIn("right").expiresAt).toBe(inDays(9));
  const { docketId: undoId, not } = await prepareUndo(house.app, docketId!, null, ADMIN);
  expect(not).toEqual([]);
  await apply(undoId);
  expect([Boolean(grantIn("right").revokedAt), linkIn("bare").expiresAt, linkIn("bare").revokedAt]).toEqual([
    true,
    null,
    undefined,
  ]);
});

test("a standing order that lies behind the share's own end is dropped with the rest", async () => {
  stacks().put({ ...linkIn("own"), expiresAt: inDays(5) });
  await house.read();
  const docketId = await carriedOut({ action: "order-revoke", shareId: "own", on: inDays(20), later: true });
  expect(await standingOrders(house.db)).toHaveLength(1);
  const { docketId: undoId } = await prepareUndo(house.app, docketId, null, ADMIN);
  expect((await docketView(house.app, undoId)).preview!.impossible).toEqual([]);
  await apply(undoId);
  expect(await standingOrders(house.db)).toEqual([]);
});
