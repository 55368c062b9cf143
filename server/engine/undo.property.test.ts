import fc from "fast-check";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildEstate } from "@/core/estate/estate";
import { type EstateRecord, LABELS, type PersonRecord } from "@/core/estate/records";
import { DEFAULT_RULES, type RuleSet } from "@/core/rules/findings";
import type { Waiver } from "@/core/rules/waivers";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import { recordsAt } from "@/tests/pastFacts";
import { estates, members, news } from "@/tests/randomEstates";
import { head, inDays, party, T } from "@/tests/records";
import { Clock } from "../platform/clock";
import { type Db, openDatabase, writing } from "../platform/db/open";
import { firstHeld, keepFacts } from "../records/facts";
import { withRegister } from "./begun";
import { Engine } from "./engine";
import { OneInstant } from "./oneInstant";
import { Pasts } from "./pasts";
import { currentSource, type Decided, decisions, type Source } from "./source";

const BEGAN = T - 60 * DAY;
const SPAN_DAYS = 60;
const RUNS = 40;

/** What a reading, or somebody here, tells of at some day: new, changed, or gone. */
interface Told {
  day: number;
  records: EstateRecord[];
  isGone: boolean;
  /** Somebody's decision that rules follow from then on. */
  decision: "folder-wide" | "dormant" | null;
}

const engagement = (days: number): EstateRecord => ({
  ...{ type: "engagement", id: "e", name: "Coastal tour", itemIds: ["i0", "i2"], organisations: ["quay.example"] },
  ...{ startsAt: inDays(-200), endsAt: inDays(days) },
});
const dated = fc.oneof(
  { weight: 4, arbitrary: news },
  {
    weight: 1,
    arbitrary: fc.constantFrom(party("quay.example", "trusted"), party("post.example", "denied")).map((one) => [one]),
  },
  { weight: 1, arbitrary: fc.integer({ min: -50, max: 5 }).map((days) => [engagement(days)]) },
  {
    weight: 1,
    arbitrary: fc.constantFrom<string[]>(["home.example"], ["home.example", "quay.example"]).map((of) => [head(of)]),
  },
);
const told: fc.Arbitrary<Told> = fc.record({
  day: fc.integer({ min: 1, max: SPAN_DAYS - 1 }),
  records: fc.tuple(dated, fc.nat()).map(([records, pick]) => records.map((one, n) => dressed(one, pick + n))),
  isGone: fc.constant(false),
  decision: fc.constantFrom(null, null, null, "folder-wide" as const, "dormant" as const),
});
const memberGone: fc.Arbitrary<Told> = fc.record({
  day: fc.integer({ min: 1, max: SPAN_DAYS - 1 }),
  records: members.map((one) => [one]),
  isGone: fc.constant(true),
  decision: fc.constant(null),
});

/** Labels, makers, uses, marks of passwords and days of all sorts. */
function dressed(record: EstateRecord, pick: number): EstateRecord {
  switch (record.type) {
    case "item":
      return {
        ...record,
        label: [null, ...LABELS][pick % 5],
        name: `Name ${pick % 3}`,
        createdAt: inDays(-(pick % 70)),
      };
    case "link":
      return {
        ...record,
        createdAt: inDays(-(pick % 70)),
        createdBy: pick % 2 === 0 ? "p0" : "p4",
        lastUsedAt: pick % 3 === 0 ? inDays(-(pick % 65)) : null,
        passwordMark: record.password ? ["0000000a", "0000000b"][pick % 2] : null,
      };
    case "grant":
      return { ...record, grantedAt: inDays(-(pick % 70)), grantedBy: "p1" };
    case "person":
      return { ...record, leftAt: record.status === "left" ? inDays(-(pick % 60)) : null } as PersonRecord;
    default:
      return record;
  }
}

test("a past that is gone back to is what its facts say, whatever has moved, joined, been told late or been decided since", async () => {
  await fc.assert(
    fc.asyncProperty(
      estates.map((records) => records.map((one, n) => dressed(one, 7 * n))),
      fc.array(fc.oneof({ weight: 4, arbitrary: told }, { weight: 1, arbitrary: memberGone }), { maxLength: 6 }),
      fc.array(fc.integer({ min: 1, max: SPAN_DAYS * 4 }), { minLength: 2, maxLength: 4 }),
      async (records, happened, quarters) => {
        const folder = mkdtempSync(join(tmpdir(), "latch-undo-"));
        const db = await openDatabase(join(folder, "latch.sqlite"));
        await keep(db, records, BEGAN);
        const inOrder = [...happened].sort((a, b) => a.day - b.day);
        for (const { day, records, isGone } of inOrder) await keep(db, records, BEGAN + day * DAY, isGone);
        const decided = decidedBy(inOrder);
        const [columns, days] = [
          { path: join(folder, "columns"), build: "" },
          { path: join(folder, "days"), build: "" },
        ];
        const pasts = new Pasts(db, decided, currentSource(db, columns, decided), days);
        const instants = quarters.map((quarter) => T - (quarter * DAY) / 4);
        const counted = [];
        const said = new Map<Seconds, object>();
        for (const t of instants) {
          const [gone, built] = [await pasts.at(t), await fromFacts(db, decided, t)];
          said.set(t, await answersOf(built, t));
          expect(await answersOf(gone, t)).toEqual(said.get(t));
          counted.push(built.outsideNow({}, t));
        }
        expect(await pasts.history({ instants })).toEqual(await Promise.all(counted));
        // One after the other, each gone back to from the one before; and then on, to the latest.
        const one = new OneInstant(db, new Clock(), columns, decided);
        const latestFirst = [...said.keys()].sort((a, b) => b - a);
        for (const t of [...latestFirst, latestFirst[0]])
          expect(await answersOf(await one.at(t), t)).toEqual(said.get(t));
        await db.destroy();
      },
    ),
    { numRuns: RUNS },
  );
}, 60_000);

function keep(db: Db, records: readonly EstateRecord[], at: Seconds, gone = false) {
  const seen = records.map((record) => ({ record, at: rfc3339(at), since: firstHeld(record, rfc3339(at)), gone }));
  return writing(db, (within) => keepFacts(within, "st", seen));
}

/** Rules are turned, and waivers given, on the days on which something was told. */
function decidedBy(happened: readonly Told[]): Decided {
  const upTo = (at: string | null) => happened.filter(({ day }) => at === null || rfc3339(BEGAN + day * DAY) <= at);
  const nothing = { docket: async () => [], round: async () => [] };
  return {
    rules: async (at) => {
      const rules: RuleSet = { ...DEFAULT_RULES };
      for (const { decision } of upTo(at)) if (decision !== null) delete rules[decision];
      return rules;
    },
    waivers: async (at) =>
      upTo(at).map(({ day }): Waiver => ({
        shareId: `l${day % 9}`,
        rule: "open-password",
        until: BEGAN + 2 * day * DAY,
      })),
    orders: async (at) => new Map(upTo(at).map(({ day }) => [`l${day % 5}`, T - day * DAY])),
    confirmations: async () => new Map(),
    sameFirms: async () => [],
    lastDays: async () => new Map(),
    labelRules: async () => [],
    lookedUp: nothing,
  };
}

async function fromFacts(db: Db, decided: Decided, t: Seconds): Promise<Engine> {
  const at = rfc3339(t);
  const records = await recordsAt(db, at);
  const source: Source = {
    begin: async () => withRegister(buildEstate(records, t)),
    changes: async () => ({ put: [], removed: [] }),
    behind: async () => 0,
    keep: async () => {},
    ...decisions(decided, at),
    belief: async () => [],
    history: async () => [],
    record: async () => null,
  };
  const engine = new Engine(source);
  await engine.start();
  return engine;
}

const sorted = (list: readonly unknown[]) => list.map((one) => JSON.stringify(one)).sort();

/** What an engine says of all that can be asked, in an order that doesn't go by who was heard of first. */
async function answersOf(engine: Engine, t: Seconds) {
  const rows = await engine.some({ query: "", order: [{ by: "item", reversed: false }], count: 1_000 }, t);
  const byId = rows.sort((a, b) => (a.id < b.id ? -1 : 1));
  const list = { query: "", from: 0, count: 100 };
  return {
    rows: byId,
    counts: await engine.ruleCounts({}, t),
    outside: engine.outsideNow({}, t),
    funnel: await engine.funnel({ query: "outside:yes rule:dormant" }, t),
    organisations: await engine.organisations({ ...list, by: "domain", reversed: false } as never, t),
    insiders: engine.insiderPage({ ...list, by: "address", reversed: false } as never, t),
    leavers: engine.leavers({}, t),
    found: Object.values(engine.find({ text: "e" })).map(sorted),
    people: sorted(await engine.values({ field: "for", text: "" }, t)),
    words: await engine.matching({ query: "name" }, t).then((ids) => ids.sort()),
    ways: engine.waysIn({ person: "odo@quay.example" }, t),
  };
}
