import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { LinkRecord } from "@/core/estate/records";
import type { Wish } from "@/core/sharing/wish";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { sharesOfDocket } from "@/server/dockets/changes";
import { showOnce } from "@/server/dockets/passphrases";
import { docketView } from "@/server/dockets/receipts";
import { ordersView } from "@/server/dockets/standingOrders";
import { prepareUndo } from "@/server/dockets/undo";
import { saySame } from "@/server/outsiders/sameFirms";
import { factNow } from "@/server/records/facts";
import { entriesBefore } from "@/server/records/ledger/ledger";
import { verifyLedger } from "@/server/records/ledger/verify";
import { waiversOn } from "@/server/rules";
import { beginningFor } from "@/server/sharing/beginning";
import { codeOf } from "@/server/sharing/code";
import { lookAt } from "@/server/sharing/look";
import { approveRequest, askForShare, makeShare, refuseRequest, withdrawRequest } from "@/server/sharing/asking";
import { requestOf } from "@/server/sharing/requests";
import { setFreeRequests, setShareWords } from "@/server/sharing/settings";
import { STORES } from "@/standins/store/stores";
import { actorOf } from "./actor";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, head, inDays, item, link, named, NOW, party } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(20_000);
const ADMIN = "ada@home.example";
const ADA = actorOf(ADMIN);
const inDock = { storeId: "dock", ownerId: "ida" };
let house: House;

beforeEach(async () => {
  house = await openHouse(
    {
      stacks: [
        ...PEOPLE,
        item("plots", null, { ...inStacks, name: "Stage plots" }),
        file("plot", "plots", { ...inStacks, name: "Plot A" }),
        file("plans", "plots", { ...inStacks, name: "Plans" }),
        file("fees", "plots", { ...inStacks, name: "Fees", label: "confidential" }),
        link("old", "plots", { createdBy: "ida", address: "OLD", role: "edit" }),
      ],
      alcoves: [],
      dock: [
        ...PEOPLE,
        item("press", null, { ...inDock, name: "Press", label: "public" }),
        file("poster", "press", { ...inDock, name: "Poster", label: "public" }),
      ],
    },
    [head(), party("quay.example", "trusted")],
  );
});
afterEach(() => house.close());

const wish = (more: Partial<Wish>): Wish => ({
  ...{ itemId: "plot", to: ["out@quay.example"], role: "view", from: null, until: inDays(20) },
  ...{ password: false, download: true, maxUses: null, mailTo: [], ...more },
});

async function make(given: Partial<Wish>, waivers: Parameters<typeof makeShare>[2]["waivers"] = []) {
  const wished = wish(given);
  const { digest } = await lookAt(house.app, wished, ADMIN);
  const { id } = await makeShare(house.app, ADA, { wish: wished, digest, why: "For the tour.", waivers });
  await allCarriedOut(house.app);
  await house.tick();
  return requestOf(house.db, id);
}

const linkOf = (id: string) => factNow<LinkRecord>(house.db, "link", id);
const kinds = async () => (await entriesBefore(house.db, Infinity, 30)).map(({ kind }) => kind).reverse();

test("the mail says what the house has written for it, as it was written", async () => {
  await setShareWords(house.db, "Call us if in doubt: <0> 123.\nThe Philharmonic", ADMIN);
  await make({});
  expect(house.mails[0].text).toContain("Call us if in doubt: <0> 123.\nThe Philharmonic");
  expect(house.mails[0].html).toContain("&lt;0&gt;");
});

test("a share that holds is made at once, looked at as its recipient would meet it, and sent in one mail", async () => {
  const { state, shares, docketId } = await make({});
  expect(state).toBe("made");
  const { receipts } = await docketView(house.app, docketId!);
  expect(receipts.map(({ state, probe }) => [state, probe])).toEqual([
    ["done", "Opened as its recipient would: it asks who comes."],
  ]);
  // The store keeps no end on a named link: it is ours to end it.
  expect(await linkOf(shares[0])).toMatchObject({ reach: "named", expiresAt: null, role: "view" });
  expect((await ordersView(house.db)).map(({ shareId, on }) => [shareId, on])).toEqual([[shares[0], inDays(20)]]);
  const [mail] = house.mails;
  expect([mail.to, house.mails.length].map((to) => (to as { text?: string })?.text ?? to)).toEqual([
    "out@quay.example",
    1,
  ]);
  expect(mail.text).toContain((await linkOf(shares[0]))!.address);
  expect(await kinds()).toEqual(
    expect.arrayContaining(["share-requested", "share-request-approved", "share-made", "share-sent"]),
  );
  expect((await verifyLedger(house.db)).unbroken).toBe(true);
});

test("our own people get a right of their own, others beside them a link", async () => {
  const { shares, docketId } = await make({ to: ["ivo@home.example", "out@quay.example"] });
  const { receipts } = await docketView(house.app, docketId!);
  expect(receipts.map(({ change, state }) => [change.action, state])).toEqual([
    ["new-grant", "done"],
    ["new-link", "done"],
  ]);
  expect(shares).toHaveLength(2);
});

test("it can’t be made while it breaks a rule, unless that is waived in the same step", async () => {
  const open = { to: "anyone" as const, itemId: "fees", mailTo: ["out@quay.example"] };
  const { breaks, digest } = await lookAt(house.app, wish(open), ADMIN);
  expect(breaks.map(({ rule }) => rule)).toEqual(expect.arrayContaining(["open-password", "outside-download"]));
  const asked = { wish: wish(open), digest, why: "" };
  await expect(makeShare(house.app, ADA, { ...asked, waivers: [] })).rejects.toThrow(/It would break “/);
  const waivers = breaks.map(({ rule }) => ({ rule, reason: "The board knows.", until: inDays(20) }));
  await expect(makeShare(house.app, ADA, { ...asked, waivers: waivers.slice(1) })).rejects.toThrow(/It would break “/);
  const { shares, state } = await make(open, waivers);
  expect(state).toBe("made");
  const given = await waiversOn(house.db, [shares[0], "fees"]);
  expect(given.map(({ rule, reason }) => [rule, reason]).sort()).toEqual(
    waivers.map(({ rule, reason }) => [rule, reason]).sort(),
  );
  expect(await house.app.engine.ask("broken", { shares: { ids: shares }, rules: null })).toEqual([]);
});

test("leave for a rule that items break is given for those items, however many shares are made", async () => {
  const block = { itemId: "plots", to: ["ivo@home.example", "out@quay.example"], download: false };
  const { breaks } = await lookAt(house.app, wish(block), ADMIN);
  const broken = breaks.find(({ rule }) => rule === "block-bypassed")!;
  expect(broken.items).toEqual(["plots", "plot", "plans", "fees"]);
  const waivers = breaks.map(({ rule }) => ({ rule, reason: "Until the old link is gone.", until: inDays(20) }));
  const { shares } = await make(block, waivers);
  expect(shares).toHaveLength(2);
  const given = await waiversOn(house.db, broken.items);
  expect(given.map(({ rule }) => rule)).toEqual(broken.items.map(() => "block-bypassed"));
  expect(given.map(({ shareId }) => shareId).sort()).toEqual([...broken.items].sort());
});

test("whoever isn’t an administrator is told nothing of what isn’t theirs, and replaces nothing", async () => {
  house.app.actorFrom = async () => actorOf("ivo@home.example", "owner");
  const ask = async (path: string, body?: object) => {
    const { url } = house.app.settings;
    const headers = { Origin: url, "Content-Type": "application/json" };
    const method = body ? "POST" : "GET";
    const answer = await house.app.fetch(
      new Request(url + path, { method, headers, body: body && JSON.stringify(body) }),
    );
    return [answer.status, ((await answer.json()) as { error?: string }).error];
  };
  const notTheirs = [404, "You can ask to share what you own. Choose one of your own files or folders."];
  expect(await ask("/api/my-sharing/begin?item=plot")).toEqual(notTheirs);
  expect(await ask("/api/my-sharing/look", { wish: wish({}) })).toEqual(notTheirs);
  expect(await ask("/api/my-sharing", { wish: wish({}), digest: "a".repeat(64), why: "Let me." })).toEqual(notTheirs);
  expect((await ask("/api/my-sharing/look", { wish: wish({ replaces: "old" }) }))[0]).toBe(400);
  expect((await ask("/api/sharing/look", { wish: wish({}) }))[0]).toBe(403);
  house.app.actorFrom = async () => actorOf("ida@home.example", "owner");
  expect((await ask("/api/my-sharing/look", { wish: wish({}) }))[0]).toBe(200);
  expect(
    (await ask("/api/my-sharing", { wish: wish({ replaces: "old" }), digest: "a".repeat(64), why: "No." }))[0],
  ).toBe(400);
});

test("a folder says what else it gives away, without itself", async () => {
  const folderOf = async (itemId: string) => (await lookAt(house.app, wish({ itemId }), ADMIN)).folder;
  expect(await folderOf("plots")).toBe(
    "3 files below, with 1 confidential or restricted item, and whatever is put there later. Share a file instead?",
  );
  expect(await folderOf("plot")).toBeNull();
});

test("what is made is what was shown: a rule set since, or a store that changed, stops it", async () => {
  const wished = wish({ itemId: "plots" });
  const { digest } = await lookAt(house.app, wished, ADMIN);
  house.stores.stacks.db.put(file("more", "plots", { ...inStacks, label: "restricted" }));
  await house.read();
  const asked = { wish: wished, digest, why: "", waivers: [] };
  await expect(makeShare(house.app, ADA, asked)).rejects.toThrow("has changed since it was shown");
});

test("the passphrase never is in the mail with the link; whoever hands it over is shown it once, and it opens the link", async () => {
  // This store knows no named links: an open one with a passphrase is made, and sent to them alone.
  const looked = await lookAt(house.app, wish({ itemId: "poster", to: ["new@firm.example"] }), ADMIN);
  expect(looked.instead[0]).toMatch(
    /^Loading Dock can’t make links for named people: new@firm.example gets an open link/,
  );
  const { docketId, shares } = await make({ itemId: "poster", to: ["new@firm.example"] });
  const { receipts } = await docketView(house.app, docketId!);
  expect(receipts[0].probe).toBe("Opened as its recipient would: it asks for the passphrase.");
  const passphrase = await showOnce(house.app, receipts[0].passphrase!, ADMIN);
  const { address } = (await linkOf(shares[0]))!;
  for (const mail of house.mails) {
    expect(mail.text).toContain(address);
    expect(mail.text! + mail.html + mail.subject).not.toContain(passphrase);
  }
  const body = new URLSearchParams({ password: passphrase });
  const opened = await fetch(`${address}/password`, { method: "POST", body, redirect: "manual" });
  expect(opened.status).toBe(303);
});

test("whoever has a right of their own isn’t sent the link of others; nobody is sent two mails", async () => {
  const to = ["ivo@home.example", "new@firm.example", "New@Firm.example"];
  const { docketId } = await make({ itemId: "poster", to });
  const { receipts } = await docketView(house.app, docketId!);
  expect(receipts.map(({ change }) => change.action)).toEqual(["new-grant", "new-link"]);
  const sent = house.mails.map((mail) => [(mail.to as { text: string }).text, mail.text!.includes("/l/")]);
  expect(sent.sort()).toEqual([
    ["ivo@home.example", false],
    ["new@firm.example", true],
  ]);
});

test("where one of several shares can’t be made, those it was for are sent nothing, and whoever asked is told", async () => {
  const { id } = await requestHeldBack();
  const now = await requestOf(house.db, id);
  expect([now.state, now.word]).toEqual(["made", "Stacks can't make named links."]);
  expect(house.mails.map((mail) => (mail.to as { text: string }).text)).toEqual(["ivo@home.example"]);
});

/** A right and a link of which the store, unlike what it said, makes but the right. */
async function requestHeldBack() {
  const { namedLinks } = STORES.stacks.capabilities;
  try {
    STORES.stacks.capabilities.namedLinks = false;
    return await make({ to: ["ivo@home.example", "out@quay.example"] });
  } finally {
    STORES.stacks.capabilities.namedLinks = namedLinks;
  }
}

test("our look at a link that may be opened but once doesn’t use it up", async () => {
  const once = { itemId: "poster", to: "anyone" as const, maxUses: 1, password: false };
  const { breaks } = await lookAt(house.app, wish(once), ADMIN);
  const waivers = breaks.map(({ rule }) => ({ rule, reason: "For one visitor.", until: inDays(20) }));
  const { shares } = await make(once, waivers);
  const { address, uses } = (await linkOf(shares[0]))!;
  expect(uses).toBe(0);
  expect((await fetch(address!)).status).toBe(200);
  expect((await fetch(address!)).status).toBe(410);
});

test("a request waits for an administrator: refused with a word, asked again, approved; each is told and written down", async () => {
  const wished = wish({});
  const { digest } = await lookAt(house.app, wished, "ida@home.example");
  const first = await askForShare(house.app, "ida@home.example", { wish: wished, digest, why: "For the rigging." });
  expect(first.state).toBe("asked");
  await refuseRequest(house.app, ADMIN, first.id, "Ask for ten days at most.");
  await expect(refuseRequest(house.app, ADMIN, first.id, "Again.")).rejects.toThrow(
    "decided about this request already",
  );
  const again = wish({ until: inDays(9) });
  const look = await lookAt(house.app, again, "ida@home.example");
  const second = await askForShare(house.app, "ida@home.example", { wish: again, digest: look.digest, why: "Better." });
  await house.later(1);
  await house.tick();
  expect(house.mails.map(({ subject }) => subject)).toEqual(["Your request to share Plot A was refused"]);
  expect(house.mails[0].text).toContain("Ask for ten days at most.");
  const now = await lookAt(house.app, again, second.askedBy);
  await approveRequest(house.app, ADA, second.id, { digest: now.digest, waivers: [] });
  await allCarriedOut(house.app);
  await house.tick();
  expect(await requestOf(house.db, second.id)).toMatchObject({ state: "made", decidedBy: ADMIN });
  await expect(withdrawRequest(house.app, "ida@home.example", second.id)).rejects.toThrow("decided about this request");
  expect((await entriesBefore(house.db, Infinity, 40)).filter(({ kind }) => kind === "share-requested")).toHaveLength(
    2,
  );
});

test("what a rule says needs nobody’s approval is made as it is asked for, and nothing else is", async () => {
  await setFreeRequests(house.db, { labels: ["public"], maxDays: 30, named: true }, ADMIN);
  const askFor = async (given: Partial<Wish>) => {
    const wished = wish(given);
    const { digest } = await lookAt(house.app, wished, "ida@home.example");
    return (await askForShare(house.app, "ida@home.example", { wish: wished, digest, why: "Press." })).state;
  };
  expect(await askFor({ itemId: "poster", to: ["out@quay.example"] })).toBe("making");
  expect(await askFor({ itemId: "poster", to: ["out@quay.example"], until: inDays(31) })).toBe("asked");
  expect(await askFor({ itemId: "plot" })).toBe("asked");
  // Somebody never heard of is for an administrator to look at.
  expect(await askFor({ itemId: "poster", to: ["new@firm.example"] })).toBe("asked");
});

test("an address that can be taken for a partner’s is told", async () => {
  const { addresses } = await lookAt(house.app, wish({ to: ["out@quai.example", "me@gmail.com"] }), ADMIN);
  expect(addresses.map(({ cautions }) => cautions)).toEqual([
    ["quai.example is one character away from quay.example.", "Nothing has been shared with quai.example before."],
    ["It is a private mailbox: no firm answers for who reads it.", "Nothing has been shared with gmail.com before."],
  ]);
});

test("a look-alike that something is shared with already is told too, unless the two are one firm", async () => {
  house.stores.stacks.db.put(named("fake", "plot", ["odo@quai.example"], { createdBy: "ida" }));
  await house.read();
  const cautions = async () =>
    (await lookAt(house.app, wish({ to: ["odo@quai.example"] }), ADMIN)).addresses[0].cautions;
  expect(await cautions()).toEqual(["quai.example is one character away from quay.example."]);
  await saySame(house.db, ["quai.example", "quay.example"], true, ADMIN);
  await house.app.engine.ask("refresh", {});
  expect(await cautions()).toEqual([]);
});

test("where a store keeps no start the share is made on the day, unless it would break a rule by then", async () => {
  const first = await make({ from: inDays(3) });
  expect([first.state, first.dueAt]).toEqual(["due", Date.parse(inDays(3)) / 1_000]);
  const second = await make({ from: inDays(3), itemId: "plans" });
  expect(second.state).toBe("due");
  await house.later(3);
  house.stores.stacks.db.put(file("plans", "plots", { ...inStacks, state: "binned" }));
  await house.read();
  await house.tick();
  await house.tick();
  expect(await requestOf(house.db, first.id)).toMatchObject({ state: "made" });
  expect(await requestOf(house.db, second.id)).toMatchObject({ state: "failed", word: "This item no longer exists." });
});

test("a bad share is replaced by one that holds: the old one ends once the new one opens as it should", async () => {
  const { wish: begun } = await beginningFor(house.app, ADMIN, "plot", "old");
  expect(begun).toMatchObject({ replaces: "old", role: "view", to: [], download: true });
  const { state, docketId, shares } = await make({ ...begun, to: ["out@quay.example"] });
  expect(state).toBe("made");
  const { receipts } = await docketView(house.app, docketId!);
  expect(receipts.map(({ change, state }) => [change.action, state])).toEqual([
    ["new-link", "done"],
    ["revoke", "done"],
  ]);
  expect((await linkOf("old"))!.revokedAt).toBeTruthy();
  // They stay together: were the docket to go on after a crash, the one would still wait for the other.
  expect((await sharesOfDocket(house.db, docketId!)).sort()).toEqual(["old"]);
  // Its undo takes the new one away, and makes one like the old.
  const { docketId: undo } = await prepareUndo(house.app, docketId!, null, ADMIN);
  await applyDocket(house.app, undo, ADMIN);
  await allCarriedOut(house.app);
  expect((await linkOf(shares[0]))!.revokedAt).toBeTruthy();
});

test("while the new share can’t be made the old one stays", async () => {
  await house.control("stacks", { errors: 50 });
  const wished = wish({ replaces: "old" });
  const { digest } = await lookAt(house.app, wished, ADMIN);
  const { id } = await makeShare(house.app, ADA, { wish: wished, digest, why: "", waivers: [] });
  await allCarriedOut(house.app);
  await house.control("stacks", { errors: 0 });
  await house.tick();
  expect(await requestOf(house.db, id)).toMatchObject({ state: "failed" });
  expect((await linkOf("old"))!.revokedAt ?? null).toBeNull();
});

test("a link for anyone comes as a QR code that another program reads; no code is made of a named one", async () => {
  const waivers = (await lookAt(house.app, wish({ itemId: "poster", to: "anyone" }), ADMIN)).breaks.map(({ rule }) => {
    return { rule, reason: "It is on posters.", until: inDays(20) };
  });
  const { id, shares } = await make({ itemId: "poster", to: "anyone" }, waivers);
  const { address } = (await linkOf(shares[0]))!;
  const { body, type } = await codeOf(house.db, ADMIN, id, "png");
  const bytes = Buffer.from(body as Uint8Array);
  expect(type).toBe("image/png");
  expect(read(bytes)).toBe(address);
  const svg = await codeOf(house.db, ADMIN, id, "svg");
  expect(read(Buffer.from(svg.body as string))).toBe(address);
  const named = await make({});
  await expect(codeOf(house.db, ADMIN, named.id, "png")).rejects.toThrow("only for a link that is open to anyone");
});

/** What an independent decoder reads in a picture. */
function read(bytes: Buffer): string {
  const path = join(mkdtempSync(join(tmpdir(), "latch-code-")), "code");
  writeFileSync(path, bytes);
  return execFileSync(process.execPath, ["tests/readCode.mjs", path], { encoding: "utf8" }).trim();
}
