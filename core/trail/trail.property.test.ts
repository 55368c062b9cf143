import fc from "fast-check";
import { wordsIn } from "../text/text";
import { type TrailEvent, PARTIES, PARTS, REMARKS, type Spoken } from "./event";
import { trailCounts, trailFacets } from "./counts";
import { groupsOf } from "./groups";
import { meets, testsOfSpoken } from "./meets";
import { NOTHING_ASKED, parseSearch, printSearch, SIDES, type TrailSearch } from "./search";
import { type EventRow, type FlagsOfWord, Trail } from "./trail";

const PEOPLE = ["ada@home.example", "bo@quay.example", "cy@post.example"];
const ORGANISATIONS = ["quay.example", "post.example"];
const some = <T>(values: readonly T[]) => fc.subarray([...values], { maxLength: 2 });
const STORES = ["st", "file"];
const VERBS = ["opened", "downloaded", "shared-open", "waved"];

const spoken: fc.Arbitrary<Spoken> = fc.record(
  {
    kind: fc.constantFrom("person", "item", "share", "other"),
    key: fc.constantFrom("a", "b", "c"),
    name: fc.constantFrom("Tour plan", "Tôur rider", "Score", "Ada"),
    detail: fc.constantFrom("", "Touring / Plans", "ada@home.example"),
    label: fc.constantFrom("public", "restricted"),
    path: some(["a", "b", "c"]),
    people: some(PEOPLE),
    organisations: some(ORGANISATIONS),
    parties: some(PARTIES),
  },
  { requiredKeys: ["kind", "key", "name", "detail"] },
);
const part = fc.nat(8);
const event = fc.record({
  at: fc.integer({ min: 1_000_000, max: 1_000_000 + 40 * 86_400 }),
  source: fc.constantFrom(...STORES),
  verb: fc.constantFrom(...VERBS),
  who: part,
  item: part,
  share: part,
  whom: part,
  remarks: fc.nat(15),
});
/** Mostly not asked for: a search for everything at once finds nothing. */
const seldom = <T, N>(asked: fc.Arbitrary<T>, none: N) =>
  fc.oneof({ weight: 3, arbitrary: fc.constant(none) }, { weight: 1, arbitrary: asked });
const search: fc.Arbitrary<TrailSearch> = fc.record({
  words: seldom(fc.constantFrom("tou", "tour pla", "ada@home", "nowhere"), ""),
  verbs: seldom(some(VERBS), []),
  from: seldom(fc.integer({ min: 1_000_000, max: 3_000_000 }), null),
  to: seldom(fc.integer({ min: 2_000_000, max: 4_600_000 }), null),
  person: seldom(fc.constantFrom(...PEOPLE), null),
  side: fc.constantFrom(...SIDES),
  item: seldom(fc.constantFrom("a", "b"), null),
  share: seldom(fc.constantFrom("a", "b"), null),
  organisations: seldom(some(ORGANISATIONS), []),
  stores: seldom(some(STORES), []),
  labels: seldom(some(["public", "restricted"] as const), []),
  parties: seldom(some(PARTIES), []),
});

/** A trail that took some events in, in pieces, and the same events as plain values in the order of time. */
function trailOf(things: Spoken[], events: Omit<EventRow, "seq">[], pieces: number, fewEvents: number) {
  const trail = new Trail(fewEvents);
  things.forEach((thing, i) => trail.spoken.put(i + 1, thing));
  const number = (wanted: number) => (wanted > things.length ? 0 : wanted);
  const rows = events.map((one, i): EventRow => {
    const parts = Object.fromEntries(PARTS.map((name) => [name, number(one[name])]));
    return { ...one, ...parts, seq: i + 1 };
  });
  const size = Math.ceil(rows.length / pieces) || 1;
  for (let from = 0; from < rows.length; from += size) {
    trail.take(rows.slice(from, from + size));
    // What has been searched already is searched again when more has come, late events too.
    trail.find({ ...NOTHING_ASKED, share: "a" }, () => new Uint8Array(0));
  }
  const plain = rows.map((row): TrailEvent => ({
    seq: row.seq,
    at: row.at,
    source: row.source,
    verb: row.verb,
    remarks: REMARKS.filter((_, bit) => (row.remarks >> bit) & 1),
    who: things[row.who - 1] ?? null,
    item: things[row.item - 1] ?? null,
    share: things[row.share - 1] ?? null,
    whom: things[row.whom - 1] ?? null,
  }));
  const flags: FlagsOfWord = (word) =>
    Uint8Array.from(trail.spoken.all, (one) => Number(one !== undefined && testsOfSpoken.word(one, word)));
  return { trail, flags, plain: plain.sort((a, b) => a.at - b.at || a.seq - b.seq) };
}

const given = fc
  .tuple(
    fc.array(spoken, { maxLength: 7 }),
    fc.array(event, { maxLength: 60 }),
    fc.integer({ min: 1, max: 5 }),
    // None, some or all of what few events speak of is looked at event by event.
    fc.constantFrom(0, 6, 1_000),
  )
  .map((values) => trailOf(...values));

test("the columns find what a plain test of each event finds, all of it or the newest", () => {
  let isFound = false;
  fc.assert(
    fc.property(given, search, fc.nat(10), ({ trail, flags, plain }, asked, count) => {
      const wanted = plain.filter(meets(asked));
      isFound ||= wanted.length > 5 && wanted.length < plain.length;
      expect(Array.from(trail.find(asked, flags), (row) => trail.event(row))).toEqual(wanted);
      const newest = trail.newest(asked, flags, count);
      expect(newest.map((row) => trail.event(row))).toEqual(wanted.slice().reverse().slice(0, count));
    }),
    { numRuns: 400 },
  );
  expect(isFound).toBe(true);
});

test("counts are what counting gives, and each facet leaves its own choice out", () => {
  fc.assert(
    fc.property(given, search, ({ trail, flags, plain }, asked) => {
      const counts = trailCounts(trail, asked, flags, "Europe/Lisbon");
      const found = plain.filter(meets(asked));
      expect([counts.found, counts.total]).toEqual([found.length, plain.length]);
      const sum = counts.histogram.counts.reduce((a, b) => a + b, 0);
      expect(sum).toBe(found.length);
      counts.histogram.counts.forEach((count, i) => {
        const [from, to] = counts.histogram.edges.slice(i, i + 2);
        expect(count).toBe(found.filter(({ at }) => at >= from && at < to).length);
      });
      const anyVerb = plain.filter(meets({ ...asked, verbs: [] }));
      for (const { value, count } of counts.verbs)
        expect(count).toBe(anyVerb.filter(({ verb }) => verb === value).length);
      expect(counts.verbs.reduce((total, { count }) => total + count, 0)).toBe(anyVerb.length);
      const { organisations, labels } = trailFacets(trail, asked, flags);
      const anyLabel = plain.filter(meets({ ...asked, labels: [] }));
      for (const { value, count } of labels.top)
        expect(count).toBe(anyLabel.filter(({ item }) => item?.label === value).length);
      const anyOrganisation = plain.filter(meets({ ...asked, organisations: [] }));
      const has = (one: Spoken | null, value: string) => one?.organisations?.includes(value) ?? false;
      for (const value of ORGANISATIONS) {
        const wanted = anyOrganisation.filter((one) => [one.who, one.share, one.whom].some((it) => has(it, value)));
        expect(organisations.top.find((one) => one.value === value)?.count ?? 0).toBe(wanted.length);
      }
    }),
    { numRuns: 300 },
  );
});

test("like events of a day are one group, whole days at a time, and nothing is passed over", () => {
  const dayOf = (at: number) => String(Math.floor(at / 86_400));
  fc.assert(
    fc.property(given, search, fc.integer({ min: 1, max: 6 }), ({ trail, flags, plain }, asked, wanted) => {
      const found = plain.filter(meets(asked));
      let [sum, before] = [0, trail.length as number | null];
      const days = new Set<string>();
      while (before !== null) {
        const { groups, next } = groupsOf(trail, asked, flags, dayOf, wanted, before);
        const here = new Set(groups.map(({ newest }) => dayOf(trail.at[newest])));
        for (const day of here) expect(days.has(day)).toBe(false);
        here.forEach((day) => days.add(day));
        sum += groups.reduce((total, { count }) => total + count, 0);
        before = next;
      }
      expect(sum).toBe(found.length);
    }),
    { numRuns: 200 },
  );
});

test("a search is the same after an address has held it", () => {
  fc.assert(
    fc.property(search, (asked) => {
      const side = asked.person ? asked.side : "either";
      expect(parseSearch(printSearch(asked))).toEqual({ ...asked, side });
    }),
  );
});

test("what is no value of its field is left out of a search", () => {
  const parameters = new URLSearchParams("label=secret&party=odd&side=left&from=soon&verb=opened&verb=opened");
  expect(parseSearch(parameters)).toEqual({ ...NOTHING_ASKED, verbs: ["opened"] });
  expect(wordsIn("nowhere")).toEqual(["nowhere"]);
});
