import type { EstateRecord } from "@/core/estate/records";
import { DAY, rfc3339 } from "@/core/time/instant";
import { engagementDates } from "@/server/engagements/dates";
import { changeEngagement, endEngagement, extendEngagement, makeEngagement } from "@/server/engagements/engagements";
import { askedAt, extendAsked, letEnd } from "@/server/engagements/asking";
import { engagementLines } from "@/server/engagements";
import { entriesBefore } from "@/server/records/ledger/ledger";
import { dayWords } from "@/core/text/words";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, grant, group, item, link, named, person, store, T } from "./records";

const [ADA, IDA] = ["ada@home.example", "ida@home.example"];
let house: House;

const STACKS: EstateRecord[] = [
  store("stacks"),
  ...PEOPLE,
  person("mia", "mia@mixer.example"),
  ...group("guests", "out", "mia"),
  item("a", null, { ...inStacks, name: "Recording" }),
  file("f", "a", { ...inStacks, name: "Takes" }),
  file("g", null, { ...inStacks, name: "Budget" }),
  grant("theirs", "f", "out", { grantedBy: "ida" }),
  named("both", "f", ["out@quay.example", "mia@mixer.example"], { createdBy: "ida", lastUsedAt: null }),
  named("stray", "f", ["mia@mixer.example"], { createdBy: "ida" }),
  grant("guests", "a", "guests", { grantedBy: "ida" }),
  link("open", "a", { createdBy: "ida", lastUsedAt: null }),
  link("elsewhere", "g", { createdBy: "ida" }),
];

beforeEach(async () => {
  house = await openHouse({ stacks: STACKS, alcoves: [], dock: [] });
});
afterEach(() => house.close());

const given = {
  ...{ name: "The recording", itemIds: ["a"], organisations: ["quay.example"] },
  ...{ starts: rfc3339(T - 30 * DAY), ends: rfc3339(T + 20 * DAY), responsible: IDA },
};
async function made(more: Partial<typeof given> = {}) {
  const id = await makeEngagement(house.db, { ...given, ...more }, ADA);
  await house.app.engine.ask("refresh", {});
  return id;
}
const sheet = (id: string) => house.app.engine.ask("engagementSheet", { id });
const kinds = async () => (await entriesBefore(house.db, Number.MAX_SAFE_INTEGER, 50)).map(({ kind }) => kind);
const waiting = () =>
  house.db.selectFrom("docket").select(["id", "words"]).where("origin", "=", "engagement").execute();
const changesOf = async (docketId: string) =>
  (await house.db.selectFrom("docket_change").select("body").where("docket_id", "=", docketId).execute()).map(
    ({ body }) => JSON.parse(body) as { action: string; shareId: string; address?: string },
  );
const mailsTo = (address: string) => house.mails.filter(({ to }) => (to as { text: string }).text === address);
const tokenIn = (mail: { text?: string }) => /\/project#(\S+)/.exec(mail.text!)![1];

test("a project has what lets in its organisations on its items, or anyone; the others belong to none", async () => {
  const id = await made();
  const told = (await sheet(id))!;
  expect(told.shares.map((one) => [one.id, one.organisations, one.lastUsed === null]).sort()).toEqual([
    ["both", ["mixer.example", "quay.example"], true],
    ["guests", ["mixer.example", "quay.example"], false],
    ["open", [], true],
    ["theirs", ["quay.example"], false],
  ]);
  expect(told.strays.map(({ id }) => id)).toEqual(["stray"]);
  expect(told.engagement).toMatchObject({ shares: 4, used: 2, items: 1 });
  // Another one for those others on a part of it: then nothing is without one.
  await made({ organisations: ["mixer.example"], itemIds: ["f"] });
  expect((await sheet(id))!.strays).toEqual([]);
});

test.each([
  [{ itemIds: ["nothing"] }, /items: nothing is no longer known/],
  [{ organisations: ["home.example"] }, /home.example is one of your own domains/],
  [{ responsible: "out@quay.example" }, /is an outsider/],
  [{ ends: given.starts }, /ends: choose a day after/],
])("%j can't be", async (more, message) => {
  await expect(made(more)).rejects.toThrow(message);
  expect(await kinds()).not.toContain("engagement-made");
});

test("fourteen days before its end whoever answers for it gets one mail, and the Desk says so", async () => {
  const id = await made();
  await house.tick();
  expect(mailsTo(IDA)).toEqual([]);
  await house.later(6);
  await house.tick();
  await house.tick();
  const [mail, ...more] = mailsTo(IDA);
  expect([mail.subject, more]).toEqual([expect.stringMatching(/^1 of your projects ends/), []]);
  expect(mail.text).toContain("The recording, for quay.example: ends on");
  expect((await engagementLines(house.db, dayWords)).map(({ href }) => href)).toEqual([`/people/project?id=${id}`]);
  // Another end is warned of again.
  await extendEngagement(house.db, { id, ends: T + 30 * DAY, reason: "More takes" }, ADA);
  await house.later(11);
  await house.tick();
  expect(mailsTo(IDA)).toHaveLength(2);
});

test("by the mail it is extended with a reason, as whoever answers for it; a wrong address does nothing", async () => {
  const id = await made();
  await house.later(6);
  await house.tick();
  const token = tokenIn(mailsTo(IDA)[0]);
  expect(await askedAt(house.app, token, "net")).toMatchObject({ name: "The recording", ends: T + 20 * DAY });
  const late = { token, ends: T + 900 * DAY, reason: "For ever" };
  await expect(extendAsked(house.app, late, "net")).rejects.toThrow("choose an earlier day");
  await expect(askedAt(house.app, `${token}x`, "net")).rejects.toThrow(
    "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch.",
  );
  const extended = await extendAsked(house.app, { token, ends: T + 60 * DAY, reason: "More takes" }, "net");
  expect(extended.ends).toBe(T + 60 * DAY);
  expect((await sheet(id))!.engagement.ends).toBe(T + 60 * DAY);
  const [{ kind, actor, body }] = await entriesBefore(house.db, Number.MAX_SAFE_INTEGER, 1);
  expect([kind, actor, body]).toMatchObject(["engagement-extended", IDA, { reason: "More takes" }]);
});

test("whoever lets it end says so in the ledger; whoever answers for it no longer has an address that fails", async () => {
  const id = await made();
  await house.later(6);
  await house.tick();
  const token = tokenIn(mailsTo(IDA)[0]);
  await letEnd(house.app, token, "net");
  expect((await kinds())[0]).toBe("engagement-let-end");
  const { ends: _, ...rest } = given;
  await changeEngagement(house.db, { ...rest, id, responsible: "ivo@home.example" }, ADA);
  await expect(askedAt(house.app, token, "net")).rejects.toThrow(
    "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch.",
  );
});

test("once its days of grace are over one docket waits with all that belonged to it, and takes it back", async () => {
  await made();
  await house.later(26);
  await house.tick();
  expect(await waiting()).toEqual([]);
  await house.later(1);
  await house.tick();
  await house.tick();
  const [docket, ...more] = await waiting();
  expect(more).toEqual([]);
  expect(docket.words).toMatch(/^The recording ended on 25 Oct(ober)? 2026: .*; 1 share stays, for others too$/);
  const changes = await changesOf(docket.id);
  expect(changes.map(({ action, shareId, address }) => [action, shareId, address]).sort()).toEqual([
    ["drop-recipient", "both", "out@quay.example"],
    ["revoke", "open", undefined],
    ["revoke", "theirs", undefined],
  ]);
});

test("what a project that goes on needs too stays", async () => {
  await made();
  await made({ name: "The next one", ends: rfc3339(T + 200 * DAY) });
  await house.later(40);
  await house.tick();
  expect(await waiting()).toEqual([]);
});

test("ended now, it is over; another end has it go on", async () => {
  const id = await made();
  await endEngagement(house.db, id, ADA);
  await house.app.engine.ask("refresh", {});
  expect((await sheet(id))!.engagement.ends).toBe(T);
  await expect(endEngagement(house.db, id, ADA)).rejects.toThrow("already ended");
  await extendEngagement(house.db, { id, ends: T + DAY, reason: "A mistake" }, ADA);
  await house.later(5);
  await house.tick();
  expect(await waiting()).toEqual([]);
});

test("all ends stand in a calendar (RFC 5545)", async () => {
  const id = await made();
  await made({ name: "Over", starts: rfc3339(T - 90 * DAY), ends: rfc3339(T - DAY) });
  const lines = (await engagementDates(house.app)).split("\r\n");
  expect(lines.filter((line) => line === "BEGIN:VEVENT")).toHaveLength(1);
  expect(lines).toContain("SUMMARY:Ends: The recording");
  expect(
    lines.some((line) => line.startsWith("DTSTART") && line.endsWith(rfc3339(T + 20 * DAY).replace(/[-:]/g, ""))),
  ).toBe(true);
  expect(lines).toContain(`UID:engagement-${id}@tight-latch`.slice(0, 75));
});

test("a file's project is shown, and can't be changed here", async () => {
  await expect(extendEngagement(house.db, { id: "e", ends: T + DAY, reason: "x" }, ADA)).rejects.toThrow(
    "wasn’t made here",
  );
});
