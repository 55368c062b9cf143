import ICAL from "ical.js";
import type { LinkRecord } from "@/core/estate/records";
import type { RoundAsked } from "@/core/rounds/round";
import { hashOfLines } from "@/core/rounds/draw";
import { DAY, rfc3339, seconds } from "@/core/time/instant";
import { UTC_DATES } from "@/core/time/style";
import type { Decision } from "@/core/rounds/decision";
import { subjectOf } from "@/server/platform/signed";
import { recordText } from "@/server/records/facts";
import type { LedgerKind } from "@/core/ledger/kinds";
import { entriesOfKind } from "@/server/records/ledger/ledger";
import { verifyLedger } from "@/server/records/ledger/verify";
import { closeRound, stopRound } from "@/server/rounds/closing";
import { confirmationsAt } from "@/server/rounds/confirmations";
import { decideLines, passOnLines } from "@/server/rounds/decide";
import { decidersPage } from "@/server/rounds/decidersPage";
import { finish, finishing, showToDecider } from "@/server/rounds/finishing";
import { handOver } from "@/server/rounds/handingOver";
import { decideLook, drawLook, lookView } from "@/server/rounds/looks";
import { extendRound, makeRound } from "@/server/rounds/making";
import { remindNow } from "@/server/rounds/asking";
import { openRound } from "@/server/rounds/opening";
import { roundOf } from "@/server/rounds/round";
import { nameDeputy, setHead } from "@/server/rounds/standIns";
import { decidersOf, roundLines, roundView } from "@/server/rounds/view";
import { type House, openHouseWith } from "./house";
import { file, inDays, link, named, NOW, person, T } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(60_000);

const [IDA, ODA, ADMIN] = ["ida@home.example", "oda@home.example", "admin@home.example"];
let house: House;

const on = (id: string, more: object = {}) =>
  file(id, null, { storeId: "stacks", ownerId: "ida", label: "confidential", ...more });
const open = (id: string, item: string, more: object = {}) =>
  link(id, item, {
    address: `${id}-address`,
    createdBy: "ida",
    createdAt: inDays(-300),
    lastUsedAt: inDays(-3),
    ...more,
  });

beforeEach(async () => {
  house = await openHouseWith({
    stacks: [
      ...[on("f"), on("g"), on("h"), on("k", { ownerId: "oda" }), on("n", { ownerId: "oda" })],
      ...[open("l1", "f"), open("l2", "g"), open("l3", "h"), open("l4", "k")],
      named("l5", "n", ["out@quay.example"], { createdBy: "oda", createdAt: inDays(-10) }),
    ],
  });
});
afterEach(() => house.close());

const asked = (more: Partial<RoundAsked> = {}): RoundAsked => ({
  name: "Open links of the autumn",
  note: "Which of these do you still need?",
  query: "reach:open",
  order: ["owner", "space-owner", "manager"],
  named: null,
  by: "share",
  opens: NOW,
  closes: inDays(14),
  limitDays: 180,
  undecided: "end-date",
  undecidedDays: 30,
  carriedOut: "finished",
  tellManagers: false,
  repeat: null,
  zone: "UTC",
  ...more,
});
const hold = (more: Partial<RoundAsked> = {}) => makeRound(house.app, asked(more), ADMIN);
async function opened(more: Partial<RoundAsked> = {}): Promise<number> {
  const id = await hold(more);
  await house.tick();
  return id;
}
const linesOf = async (id: number) =>
  (await house.db.selectFrom("round_line").selectAll().where("round_id", "=", id).orderBy("share_id").execute()).map(
    ({ share_id, state, decider }) => `${share_id} ${decider.split("@")[0]} ${state}`,
  );
const pageOf = (roundId: number, who: string) => decidersPage(house.app, { roundId, person: who }, UTC_DATES);
async function decide(roundId: number, who: string, ids: string[], decision: Decision) {
  const { lines } = await pageOf(roundId, who);
  const shown = lines.filter(({ shareId }) => ids.includes(shareId)).map(({ shareId, asked }) => ({ shareId, asked }));
  return decideLines(house.app, { roundId, person: who }, shown, decision);
}
async function finished(roundId: number, who: string) {
  const { digest } = await finishing(house.app, { roundId, person: who });
  await finish(house.app, { roundId, person: who }, digest);
  await house.tick();
}
const keep = (days: number, reason = ""): Decision => ({ decision: "keep", until: inDays(days), reason });
const record = (id: string) => house.stores.stacks.db.get<LinkRecord>("link", id)!;
const entries = async (kind: LedgerKind) =>
  (await entriesOfKind(house.db, kind)).map(({ body }) => body as Record<string, unknown>).reverse();

test("what a round finds when it opens becomes its lines, and the ledger proves which", async () => {
  const id = await opened();
  expect(await linesOf(id)).toEqual(["l1 ida open", "l2 ida open", "l3 ida open", "l4 oda open"]);
  expect(await entries("round-opened")).toEqual([
    {
      ...{ round: id, name: "Open links of the autumn", query: "reach:open", lines: 4, deciders: 2 },
      shares: hashOfLines(["l1", "l2", "l3", "l4"]),
    },
  ]);
  // What each was then is told by the facts, whatever becomes of it.
  house.stores.stacks.db.put(open("l1", "f", { role: "edit" }), inDays(1));
  await house.later(1);
  expect(JSON.parse((await recordText(house.db, "l1", NOW))!)).toMatchObject({ id: "l1", role: "view" });
  expect(JSON.parse((await recordText(house.db, "l1", null))!)).toMatchObject({ id: "l1", role: "edit" });
});

test("each who decides gets one mail: with an address for them and this round alone, and the closing day", async () => {
  const id = await opened();
  expect(house.mails.map(({ to, subject }) => [(to as { text: string }).text, subject])).toEqual([
    [IDA, "3 of your shares need a decision by 19 Oct 2026"],
    [ODA, "1 of your shares needs a decision by 19 Oct 2026"],
  ]);
  const [mail] = house.mails;
  const [, token] = mail.text!.match(/decide#([\w.-]+)/)!;
  expect(subjectOf(house.app, "round", token)).toBe(JSON.stringify([id, IDA]));
  expect(subjectOf(house.app, "answer", token)).toBeNull();
  expect(subjectOf(house.app, "round", token.slice(0, -2))).toBeNull();
  const calendar = new ICAL.Component(ICAL.parse(mail.attachments[0].content.toString()));
  const event = new ICAL.Event(calendar.getFirstSubcomponent("vevent")!);
  expect(event.startDate.toJSDate().toISOString()).toBe(inDays(14).replace("Z", ".000Z"));
});

test("decisions are carried out by a docket once their decider has finished, and recipients' pages show it", async () => {
  const id = await opened();
  const { lines } = await pageOf(id, IDA);
  expect(lines.map(({ shareId, suggest }) => `${shareId} ${suggest}`)).toEqual([
    "l1 tighten",
    "l2 tighten",
    "l3 tighten",
  ]);
  expect(lines[0].tightenings.map(({ key }) => key)).toEqual(expect.arrayContaining(["suggested", "password", "end"]));
  await decide(id, IDA, ["l1"], { decision: "end" });
  await decide(id, IDA, ["l2"], { decision: "tighten", way: "password" });
  await decide(id, IDA, ["l3"], keep(90, "Press uses it"));
  expect(await finishing(house.app, { roundId: id, person: IDA })).toMatchObject({
    kept: 1,
    tightened: 1,
    ended: 1,
    open: 0,
  });
  expect(record("l1").revokedAt ?? null).toBeNull();
  await finished(id, IDA);
  expect(record("l1").revokedAt).toBe(NOW);
  expect(record("l2").password).toBe(true);
  expect(record("l3").expiresAt).toBe(inDays(90));
  const seen = await Promise.all(["l1", "l3"].map((one) => fetch(`${house.stores.stacks.url}/l/${one}-address`)));
  expect(seen.map(({ ok }) => ok)).toEqual([false, true]);
  expect(await linesOf(id)).toEqual(["l1 ida ended", "l2 ida tightened", "l3 ida kept", "l4 oda open"]);
  const page = await pageOf(id, IDA);
  expect(page.lines.map(({ isSettled, steps }) => [isSettled, steps.map(({ state }) => state)])).toEqual(
    Array(3).fill([true, ["done"]]),
  );
  expect([...(await confirmationsAt(house.db, null))]).toEqual([["l3", seconds(inDays(90))]]);
  const { passphrase } = page.lines.find(({ shareId }) => shareId === "l2")!.steps[0];
  await expect(showToDecider(house.app, { roundId: id, person: ODA }, passphrase!)).rejects.toThrow(
    "no such passphrase",
  );
  expect(await showToDecider(house.app, { roundId: id, person: IDA }, passphrase!)).toMatch(/\w+-\w+/);
  // What is carried out can't be decided again.
  expect(await decide(id, IDA, ["l1"], keep(9, "after all"))).toMatchObject({ decided: 0, not: [{ shareId: "l1" }] });
  expect(await verifyLedger(house.db)).toMatchObject({ unbroken: true });
});

test("when its time is over a round closes: decisions are carried out, and the rest gets what the round says, in one docket", async () => {
  const id = await opened({ carriedOut: "closed" });
  await decide(id, IDA, ["l1"], { decision: "end" });
  await finished(id, IDA);
  expect(record("l1").revokedAt ?? null).toBeNull();
  await house.later(15);
  await house.tick();
  const { docketId, state, counts } = await roundView(house.db, id);
  expect([state, counts]).toMatchObject(["closed", { ended: 1, lapsed: 3, open: 0 }]);
  expect(await linesOf(id)).toEqual(["l1 ida ended", "l2 ida lapsed", "l3 ida lapsed", "l4 oda lapsed"]);
  const dockets = await house.db.selectFrom("docket").select(["id", "origin", "state"]).execute();
  expect(dockets).toEqual([{ id: docketId, origin: "round", state: "done" }]);
  expect(record("l1").revokedAt).not.toBeNull();
  expect(record("l2").expiresAt).toBe(rfc3339(T + 45 * DAY));
  const [closed] = await entries("round-closed");
  expect(closed).toMatchObject({ ended: 1, lapsed: 3, early: false, docket: docketId });
  expect(closed.outcome).toBe(hashOfLines(["l1 ended", "l2 lapsed", "l3 lapsed", "l4 lapsed"]));
  await expect(decide(id, ODA, ["l4"], { decision: "end" })).rejects.toThrow("has closed");
});

test("a line is passed on twice at most, not in a circle, and not to whom the share is for", async () => {
  house.stores.stacks.db.put(person("ivo", "ivo@home.example"), NOW);
  house.stores.stacks.db.put(person("iris", "iris@home.example"), NOW);
  house.stores.stacks.db.put(
    open("l2", "g", {
      reach: "named",
      recipients: [
        { email: "ivo@home.example", lastUsedAt: null },
        { email: "out@quay.example", lastUsedAt: null },
      ],
    }),
    NOW,
  );
  await house.read();
  const id = await opened({ query: "outside:yes" });
  const pass = (who: string, to: string, ...shares: string[]) =>
    passOnLines(house.app, { roundId: id, person: who }, { shares, to, reason: "Yours now" });
  expect(await pass(IDA, "ivo@home.example", "l1", "l2", "l4")).toEqual({
    decided: 1,
    not: [
      { shareId: "l2", why: expect.stringContaining("nobody confirms their own") },
      { shareId: "l4", why: expect.stringContaining("Somebody else now decides about this share.") },
    ],
  });
  expect(await pass("ivo@home.example", IDA, "l1")).toMatchObject({
    not: [{ why: expect.stringContaining("They have already passed it on. Choose another colleague.") }],
  });
  expect(await pass("ivo@home.example", "nobody@home.example", "l1")).toMatchObject({
    not: [{ why: expect.stringContaining("colleague") }],
  });
  expect(await pass("ivo@home.example", ODA, "l1")).toMatchObject({ decided: 1 });
  expect(await pass(ODA, "iris@home.example", "l1")).toMatchObject({
    not: [{ why: expect.stringContaining("2 times") }],
  });
  expect(await linesOf(id)).toEqual(expect.arrayContaining(["l1 oda open"]));
  // An administrator may hand over what nobody may pass on any more.
  expect(
    await handOver(house.app, id, { from: ODA, to: "iris@home.example", reason: "On leave" }, ADMIN),
  ).toMatchObject({ moved: 3 });
  expect(await linesOf(id)).toEqual(expect.arrayContaining(["l1 iris open", "l4 iris open"]));
  await house.later(1);
  await house.tick();
  expect(house.mails.map(({ to }) => (to as { text: string }).text)).toContain("iris@home.example");
});

test("a share that changed since it was read isn't decided; it is asked anew, with both versions", async () => {
  const id = await opened();
  const { lines } = await pageOf(id, IDA);
  const shown = lines.map(({ shareId, asked }) => ({ shareId, asked }));
  await decide(id, IDA, ["l2"], keep(60, "Still needed"));
  house.stores.stacks.db.put(open("l1", "f", { role: "edit" }), NOW);
  house.stores.stacks.db.put(open("l2", "g", { role: "edit" }), NOW);
  house.stores.stacks.db.put(open("l3", "h", { revokedAt: NOW }), NOW);
  await house.read();
  const at = { roundId: id, person: IDA };
  const given = await decideLines(house.app, at, shown, { decision: "end" });
  expect(given.decided).toBe(0);
  expect(given.not.map(({ why }) => why)).toEqual([
    expect.stringContaining(
      "This share has changed since you opened the page. It is shown as it is now: decide again.",
    ),
    expect.stringContaining(
      "This share has changed since you opened the page. It is shown as it is now: decide again.",
    ),
    expect.stringContaining("has ended"),
  ]);
  await house.tick();
  expect(await linesOf(id)).toEqual(["l1 ida open", "l2 ida open", "l3 ida gone", "l4 oda open"]);
  const [l1] = (await pageOf(id, IDA)).lines;
  expect([l1.before, l1.sentence]).toEqual([
    expect.stringContaining("look at"),
    expect.stringContaining("change this file"),
  ]);
  expect(await entries("lines-overtaken")).toMatchObject([{ gone: 1, changed: 2, moved: 0 }]);
  expect(await entries("lines-decided")).toHaveLength(1);
});

test("what is finished is what was shown, whatever another tab has decided meanwhile", async () => {
  const id = await opened();
  await decide(id, IDA, ["l1"], { decision: "end" });
  const at = { roundId: id, person: IDA };
  const { digest } = await finishing(house.app, at);
  await decide(id, IDA, ["l2"], { decision: "end" });
  await expect(finish(house.app, at, digest)).rejects.toThrow("have changed since this was shown");
  expect(record("l1").revokedAt ?? null).toBeNull();
  // The last word counts until it is carried out, and saying it twice changes nothing.
  await decide(id, IDA, ["l2"], keep(30, "Needed"));
  await finished(id, IDA);
  await finished(id, IDA);
  expect(await linesOf(id)).toEqual(["l1 ida ended", "l2 ida kept", "l3 ida open", "l4 oda open"]);
  expect(await house.db.selectFrom("docket").select("id").execute()).toHaveLength(1);
});

test("keeping has a limit, and against the suggestion to end takes a reason", async () => {
  house.stores.stacks.db.put(open("l1", "f", { lastUsedAt: null }), NOW);
  await house.read();
  const id = await opened();
  const why = async (decision: Decision) => (await decide(id, IDA, ["l1"], decision)).not[0]?.why;
  expect(await why(keep(182, "Because"))).toContain("at most 180 days");
  expect(await why(keep(-1, "Because"))).toContain("in the future");
  expect(await why(keep(30))).toContain("Give a reason");
  expect(await why({ decision: "tighten", way: "nonsense" })).toContain("Its store can’t tighten it that way.");
  expect(await why(keep(30, "The press uses it from the printed list"))).toBeUndefined();
});

test("whoever leaves in the middle decides nothing more; their lines go to the next, or to the administrators", async () => {
  house.stores.stacks.db.put(person("ivo", "ivo@home.example"), NOW);
  await house.read();
  await setHead(house.app, "Touring", "ivo@home.example", ADMIN);
  house.stores.stacks.db.put(person("ida", IDA, { department: "Touring", managerId: "out" }), NOW);
  await house.read();
  const id = await opened({ order: ["owner", "manager", "head"] });
  await decide(id, IDA, ["l1"], keep(30, "Mine"));
  // Everywhere: who has left one store only still works here.
  for (const { db } of Object.values(house.stores)) {
    db.put(person("ida", IDA, { department: "Touring", managerId: "out", status: "left" }), NOW);
    db.put(person("oda", ODA, { status: "left" }), NOW);
  }
  await house.read();
  await expect(decide(id, IDA, ["l2"], { decision: "end" })).rejects.toThrow("Only active people");
  await house.tick();
  // Their manager is an outsider, and is passed over.
  expect(await linesOf(id)).toEqual(["l1 ida kept", "l2 ivo open", "l3 ivo open", "l4  open"]);
  expect((await roundView(house.db, id)).nobodys).toBe(1);
});

test("by person, what several shares of one outsider reach counts each file once", async () => {
  house.stores.stacks.db.put(open("l6", "f"), NOW);
  await house.read();
  const { files, by } = await pageOf(await opened({ by: "person" }), IDA);
  expect([by, files]).toEqual(["person", { open: 3 }]);
});

test("a deputy decides on the days that they are named for", async () => {
  await nameDeputy(house.app, { person: IDA, deputy: ODA, from: T - 1, until: T + DAY }, ADMIN);
  await expect(nameDeputy(house.app, { person: IDA, deputy: ODA, from: T, until: T + 9 }, ADMIN)).rejects.toThrow(
    "already",
  );
  await expect(nameDeputy(house.app, { person: IDA, deputy: IDA, from: T, until: T + 9 }, ADMIN)).rejects.toThrow(
    "somebody else",
  );
  await expect(
    nameDeputy(house.app, { person: ODA, deputy: "out@quay.example", from: T, until: T + 9 }, ADMIN),
  ).rejects.toThrow("active people");
  expect(await linesOf(await opened())).toEqual(["l1 oda open", "l2 oda open", "l3 oda open", "l4 oda open"]);
});

describe("what can't be held is said", () => {
  test.each<[string, Partial<RoundAsked>, string]>([
    ["nothing matches", { query: "reach:open label:public" }, "nothing matches"],
    ["a query that isn't one", { query: "nosuch:field" }, "Shares:"],
    ["a close before the open", { opens: inDays(3), closes: inDays(2) }, "after it opens"],
    ["a close in the past", { opens: inDays(-3), closes: inDays(-2) }, "in the future"],
    ["no time to decide", { closes: rfc3339(T + 60) }, "an hour"],
    ["a recurrence without an end", { repeat: "FREQ=MONTHLY;INTERVAL=6" }, "how often"],
    ["one that overlaps itself", { repeat: "FREQ=WEEKLY;COUNT=4" }, "while the one before is open"],
    ["one that is none", { repeat: "FREQ=FORTNIGHTLY;COUNT=4" }, "Repeat: this rule can’t be read"],
    [
      "one that never comes",
      { repeat: "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30;COUNT=3" },
      "Repeat: this rule can’t be read",
    ],
    ["one that comes too often", { repeat: "FREQ=MONTHLY;COUNT=40" }, "20 times"],
    [
      "a person who is nobody",
      { order: ["named"], named: "out@quay.example" },
      "isn’t one of your active people, so they can’t decide. Name somebody else.",
    ],
    ["a person who isn't named", { order: ["named"] }, "name the person"],
    ["the same twice", { order: ["owner", "owner"] }, "once"],
  ])("%s", async (_, more, words) => {
    await expect(hold(more)).rejects.toThrow(words);
    expect(await roundLines(house.db)).toEqual([]);
  });
});

test("reminders come at half time, three days and one day before the close, to those alone who have lines left", async () => {
  const id = await opened();
  await decide(id, ODA, ["l4"], { decision: "end" });
  for (let day = 0; day < 13; day++) {
    await house.later(1);
    await house.tick();
  }
  const mails = await house.db.selectFrom("round_mail").select(["person", "stage"]).orderBy("at").execute();
  expect(mails.filter(({ person }) => person === IDA).map(({ stage }) => stage)).toEqual([
    "opening",
    "half",
    "three-days",
    "one-day",
  ]);
  expect(mails.filter(({ person }) => person === ODA).map(({ stage }) => stage)).toEqual(["opening"]);
  expect(house.mails).toHaveLength(5);
});

test("nobody gets two mails within a day, whatever there is for them: what waits comes as one", async () => {
  const first = await opened();
  const second = await opened({ name: "Once more", query: "reach:open label:confidential" });
  expect(await remindNow(house.app, first, null, ADMIN)).toBe(2);
  await house.tick();
  await house.tick();
  expect(house.mails.filter(({ to }) => (to as { text: string }).text === IDA)).toHaveLength(1);
  await house.later(1);
  await house.tick();
  const mine = house.mails.filter(({ to }) => (to as { text: string }).text === IDA);
  expect(mine).toHaveLength(2);
  expect(mine[1].text).toContain("Open links of the autumn: 3 shares");
  expect(mine[1].text).toContain("Once more: 3 shares");
  expect(second).toBeGreaterThan(first);
});

test("managers of those who have decided less than half get one copy, if the round says so", async () => {
  house.stores.stacks.db.put(person("ida", IDA, { managerId: "oda" }), NOW);
  await house.read();
  await opened({ tellManagers: true });
  await house.later(12);
  await house.tick();
  await house.later(1);
  await house.tick();
  const late = house.mails.filter(({ text }) => text!.includes("you manage"));
  expect(late).toHaveLength(1);
  expect(late[0].text).toContain("Person ida: 3 of 3 shares still to decide.");
});

test("an opening that is cut off begins anew, and doubles nothing; a stopped one leaves no lines", async () => {
  const id = await hold();
  const { ask } = house.app.engine;
  let left = 1;
  house.app.engine.ask = ((...given: Parameters<typeof ask>) => {
    if (given[0] === "linesOpened" && left-- > 0) throw new Error("cut off");
    return ask.apply(house.app.engine, given);
  }) as typeof ask;
  await expect(openRound(house.app, await roundOf(house.db, id))).rejects.toThrow("cut off");
  expect((await roundOf(house.db, id)).state).toBe("opening");
  await house.tick();
  expect((await linesOf(id)).length).toBe(4);
  expect(await entries("round-opened")).toHaveLength(1);
  await stopRound(house.app, id, ADMIN);
  await house.later(20);
  await house.tick();
  expect(await linesOf(id)).toEqual(["l1 ida lapsed", "l2 ida lapsed", "l3 ida lapsed", "l4 oda lapsed"]);
  expect(record("l1")).toMatchObject({ expiresAt: null });
  expect(await entries("round-stopped")).toHaveLength(1);
});

test("a closing that is cut off is seen through, and carries out everything once", async () => {
  const id = await opened({ undecided: "end" });
  const { ask } = house.app.engine;
  let left = 1;
  house.app.engine.ask = ((...given: Parameters<typeof ask>) => {
    if (given[0] === "undecidedChanges" && left-- > 0) throw new Error("cut off");
    return ask.apply(house.app.engine, given);
  }) as typeof ask;
  await expect(closeRound(house.app, id, ADMIN)).rejects.toThrow("cut off");
  await expect(decide(id, IDA, ["l1"], keep(9, "Late"))).rejects.toThrow("is closing");
  await house.tick();
  await house.tick();
  expect(await entries("round-closed")).toMatchObject([{ lapsed: 4, early: true }]);
  expect(await house.db.selectFrom("docket").select("id").execute()).toHaveLength(1);
  expect(record("l4").revokedAt).toBe(NOW);
});

test("a recurring round plans the next when it opens, and shows how it compares with the last", async () => {
  const id = await opened({ repeat: "FREQ=MONTHLY;COUNT=3" });
  await expect(extendRound(house.app, id, seconds(inDays(60)), ADMIN)).rejects.toThrow("the next of this series");
  await extendRound(house.app, id, seconds(inDays(15)), ADMIN);
  const next = (await roundView(house.db, id)).next!;
  expect(rfc3339(next.opens)).toBe("2026-11-05T08:00:00Z");
  await house.later(40);
  await house.tick();
  const second = await roundView(house.db, next.id);
  expect(second).toMatchObject({ state: "open", lines: 4, before: { id, lines: 4, counts: { lapsed: 4 } } });
  expect(second.next).not.toBeNull();
});

test("who keeps all without looking is marked, and a second look tells how many differ", async () => {
  for (let i = 0; i < 12; i++) {
    house.stores.stacks.db.put(on(`m${i}`), NOW);
    house.stores.stacks.db.put(open(`x${i}`, `m${i}`), NOW);
  }
  await house.read();
  const id = await opened();
  const { lines } = await pageOf(id, IDA);
  await decide(
    id,
    IDA,
    lines.map(({ shareId }) => shareId),
    keep(30),
  );
  const { deciders } = await decidersOf(house.db, id, 0);
  const ida = deciders.find(({ address }) => address === IDA)!;
  expect(ida.quality).toEqual({ overruled: 15, medianSeconds: 0, isUnlooked: true });
  const look = await drawLook(house.db, id, { percent: 20, confidence: 950 }, ADMIN);
  const { lines: again } = await lookView(house.app, look);
  // Of 15, three of which are bad: 10 leave one in twenty that none of them is found (hypergeometric).
  expect(again).toHaveLength(9);
  await decideLook(
    house.db,
    look,
    again.slice(0, 2).map(({ shareId }) => shareId),
    "end",
    ADMIN,
  );
  await decideLook(house.db, look, [again[2].shareId], "keep", ADMIN);
  expect((await roundView(house.db, id)).looks).toMatchObject([{ of: 15, size: 9, decided: 3, differ: 2 }]);
  await expect(decideLook(house.db, look, ["l4"], "end", ADMIN)).rejects.toThrow("aren’t in this second look");
  expect(await entries("look-drawn")).toMatchObject([{ of: 15, size: 9, confidence: "0.95" }]);
});

test("a kept share counts as confirmed until its day, and the rule that wants that finds it again after", async () => {
  const { changeRule, previewRule } = await import("@/server/rules/rules");
  const { actorOf } = await import("./actor");
  const { standardSetting } = await import("@/core/rules/setting");
  const setting = { ...standardSetting("unconfirmed"), isOn: true };
  const { pass } = await previewRule(house.app, "unconfirmed", setting);
  await changeRule(house.app, actorOf(ADMIN), "unconfirmed", setting, pass);
  const found = () => house.app.engine.ask("matching", { query: "rule:unconfirmed" });
  expect((await found()).sort()).toEqual(["l1", "l2", "l3", "l4"]);
  const id = await opened({ carriedOut: "closed" });
  await decide(id, IDA, ["l1", "l2"], keep(60, "Needed"));
  await house.app.engine.ask("refresh", {});
  expect((await found()).sort()).toEqual(["l3", "l4"]);
  await stopRound(house.app, id, ADMIN);
  await house.later(61);
  await house.app.engine.ask("refresh", {});
  expect((await found()).sort()).toEqual(["l1", "l2", "l3", "l4"]);
});
