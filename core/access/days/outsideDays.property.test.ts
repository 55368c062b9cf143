import fc from "fast-check";
import { estates, news } from "@/tests/randomEstates";
import { factsOf, INSTANTS } from "@/tests/randomFacts";
import { inDays, head } from "@/tests/records";
import { buildEstate } from "../../estate/estate";
import { type EstateRecord, type PersonRecord, recordKey } from "../../estate/records";
import { ALWAYS, NEVER, rfc3339 } from "../../time/instant";
import { type Held, outsideSharesOver } from "../history";
import type { Changes } from "./changes";
import { isToldByDay, outsideByDay } from "./outsideDays";

const first = INSTANTS[0];
const last = INSTANTS[INSTANTS.length - 1];

/** Whoever has left did so on some day. */
const dressed = (records: readonly EstateRecord[], pick: number): EstateRecord[] =>
  records.map((record, n) => {
    if (record.type !== "person") return record;
    const leftAt = record.status === "left" ? inDays(((pick + n) % 30) - 12) : null;
    return { ...record, leftAt, source: "st" } as PersonRecord;
  });
const told = fc.oneof(
  { weight: 5, arbitrary: fc.tuple(news, fc.nat()).map(([records, pick]) => dressed(records, pick)) },
  { weight: 1, arbitrary: fc.constantFrom<string[]>(["home.example"], ["quay.example"]).map((of) => [head(of)]) },
);

/** From all facts: what an estate of now holds, and what became otherwise since the first instant. */
function sinceThen(facts: readonly Held[]): { now: EstateRecord[]; changes: Changes } {
  const open = facts.filter(({ to }) => to === NEVER);
  const begun = open
    .filter(({ from }) => from > first)
    .map(({ record, from }) => ({ type: record.type, key: recordKey(record), from }));
  return {
    now: open.map(({ record, from }) => ({ ...record, heldSince: from === ALWAYS ? null : rfc3339(from) })),
    changes: { ended: facts.filter(({ to }) => to !== NEVER && to > first), begun },
  };
}

test("the counts from the estate of now, and what became otherwise, are those from all facts", () => {
  let changed = 0;
  fc.assert(
    fc.property(
      estates.map((records) => dressed(records, 3)),
      fc.array(told, { maxLength: 6 }),
      fc.array(fc.nat(), { minLength: 1 }),
      fc.array(fc.nat(40), { maxLength: 3 }),
      (records, readings, times, gone) => {
        const facts = factsOf(records, readings, times);
        for (const n of gone) {
          const { record, from } = facts[n % facts.length];
          // A membership that has ended; and a store that no longer tells of a share.
          const ends = ["member", "grant", "link"].includes(record.type) && facts[n % facts.length].to === NEVER;
          if (ends) facts[n % facts.length].to = Math.max(from + 1, INSTANTS[n % INSTANTS.length]);
        }
        const { now, changes } = sinceThen(facts.filter(({ from }) => from <= last));
        expect(isToldByDay(buildEstate(now), changes)).toBe(true);
        const counts = outsideSharesOver(facts, INSTANTS);
        expect(outsideByDay(buildEstate(now), changes, INSTANTS)).toEqual(counts);
        if (new Set(counts.map((one) => JSON.stringify({ ...one, at: 0 }))).size > 1) changed++;
      },
    ),
    { numRuns: 300 },
  );
  expect(changed).toBeGreaterThan(100);
});

test("where groups change while one stands for another, all facts are to be gone through", () => {
  const group = { type: "group" as const, id: "g", name: "g", sameAs: "other" };
  const other = { type: "group" as const, id: "other", name: "other" };
  const estate = buildEstate([group, other]);
  const nothing: Changes = { ended: [], begun: [] };
  expect(isToldByDay(estate, nothing)).toBe(true);
  expect(isToldByDay(estate, { ...nothing, begun: [{ type: "group", key: "other", from: first }] })).toBe(false);
  const ended = [{ record: group, from: 0, to: last }];
  expect(isToldByDay(buildEstate([other]), { ...nothing, ended })).toBe(false);
  expect(isToldByDay(buildEstate([other]), { ...nothing, ended: [{ ...ended[0], record: other }] })).toBe(true);
});
