import fc from "fast-check";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildEstate, type Estate } from "@/core/estate/estate";
import { type EstateRecord, recordKey, type StoreRecord } from "@/core/estate/records";
import { shareSentence } from "@/core/estate/shareWords";
import { findings, type RuleSet } from "@/core/rules/findings";
import { judge } from "@/core/rules/judging";
import { shareOutlook } from "@/core/sharing/outlook";
import { type Wish, WISHED_ROLES } from "@/core/sharing/wish";
import { DAY, seconds } from "@/core/time/instant";
import { applyOnce } from "@/standins/store/changes";
import { StoreDatabase } from "@/standins/store/database";
import { ALL_RULES, estatesOfAnyStore } from "./anyStore";
import { inDays, NOW, T } from "./records";

process.env.LATCH_NOW = NOW;

const ADDRESSES = ["odo@quay.example", "gus@post.example", "in@home.example", "new@firm.example", "vex@rival.example"];
const wishes: fc.Arbitrary<Wish> = fc.record({
  itemId: fc.constantFrom("top", "mid", "leaf"),
  to: fc.oneof(fc.constant("anyone" as const), fc.subarray(ADDRESSES, { minLength: 1, maxLength: 3 })),
  role: fc.constantFrom(...WISHED_ROLES),
  from: fc.constantFrom(null, inDays(2)),
  until: fc.constantFrom(null, inDays(5), inDays(25), inDays(400)),
  password: fc.boolean(),
  download: fc.boolean(),
  maxUses: fc.constantFrom(null, null, 3),
  mailTo: fc.constant([]),
});

/** The estate once a real stand-in has made it, and the ids that it gave. */
function made(records: readonly EstateRecord[], wish: Wish, changes: readonly object[], at: string) {
  process.env.LATCH_NOW = at;
  const store = records.find((record): record is StoreRecord => record.type === "store")!;
  const db = new StoreDatabase(join(mkdtempSync(join(tmpdir(), "latch-making-")), "store.sqlite"));
  db.transaction(() => records.forEach((record) => db.put(record, NOW)));
  const ids: string[] = [];
  const orders = new Map<string, number>();
  for (const [n, change] of changes.entries()) {
    const told =
      "password" in change && change.password ? { ...change, password: "six words of a passphrase" } : change;
    const { status, body } = applyOnce(db, store, `key number ${n}`, told as never);
    if (status !== 200) throw new Error(`${store.name}: ${body.error}`);
    const id = recordKey(body.entries![0].record);
    ids.push(id);
    if ("endsByOrder" in change && change.endsByOrder) orders.set(id, seconds(wish.until!));
  }
  const estate = buildEstate(db.after(0, 10_000).map(({ record }) => record));
  estate.shares.takeOrders(orders);
  process.env.LATCH_NOW = NOW;
  return { estate, ids };
}

/** What breaks a rule that didn't before, each with its rule; the new shares together as `own`. */
function brokenNow(before: Estate, after: Estate, ids: readonly string[], rules: RuleSet, t: number): string[] {
  const known = new Set(findings(judge(before, t), rules).map(({ rule, subject }) => `${rule} ${subject}`));
  // Whatever breaks a rule now and didn't before: the new shares, others, items.
  const own = findings(judge(after, t), rules).filter(({ rule, subject }) => !known.has(`${rule} ${subject}`));
  return own.map(({ rule, subject }) => (ids.includes(subject) ? `${rule} own` : `${rule} ${subject}`)).sort();
}

test("what a new share would break and do is what is found once a store of any sort has made it", () => {
  let makeable = 0;
  fc.assert(
    fc.property(estatesOfAnyStore, wishes, (records, wish) => {
      const before = buildEstate(records);
      const told = shareOutlook(before, wish, { by: "in@home.example", mark: "m" }, T, { rules: ALL_RULES })!;
      if (told.cannot.length > 0) return;
      makeable++;
      const makeAt = told.makeAt > T ? inDays(2) : NOW;
      const { estate, ids } = made(records, wish, told.changes, makeAt);
      const judgedAt = wish.from === null ? T : T + 2 * DAY;
      const would = told.breaks.flatMap(({ rule, own, items }) => [
        ...(own ? [`${rule} own`] : []),
        ...items.map((item) => `${rule} ${item}`),
      ]);
      expect(would.sort()).toEqual([...new Set(brokenNow(before, estate, ids, ALL_RULES, judgedAt))]);
      expect(told.sentences).toEqual(ids.map((id) => shareSentence(estate, estate.share(id)!)));
    }),
    { numRuns: 600 },
  );
  // Most can be made: the test is about something.
  expect(makeable).toBeGreaterThan(100);
});

test("what can’t be made is refused by the store as well", () => {
  let refused = 0;
  fc.assert(
    fc.property(estatesOfAnyStore, wishes, (records, wish) => {
      const told = shareOutlook(buildEstate(records), wish, { by: "in@home.example", mark: "m" }, T, { rules: {} })!;
      if (told.cannot.length === 0) return;
      refused++;
      const isMade = () => made(records, wish, told.changes, told.makeAt > T ? inDays(2) : NOW);
      expect(isMade).toThrow(/can't|wants an end|doesn’t know/);
    }),
    { numRuns: 200 },
  );
  expect(refused).toBeGreaterThan(20);
});
