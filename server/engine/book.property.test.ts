import fc from "fast-check";
import { Standing } from "@/core/access/standing";
import type { EstateRecord } from "@/core/estate/records";
import { FACETS } from "@/core/query/facets";
import { CHOICE_NAMES, COUNT_NAMES, isLookedUp, listedValues, MOMENT_NAMES, NONE } from "@/core/query/fields";
import { MOST_KEYS, type Order, SORTS } from "@/core/query/order";
import { GROUPINGS } from "@/core/query/outline";
import { GROUP_ORDERS, type GroupOrder, type GroupTotals } from "@/core/query/totals";
import { parseQuery } from "@/core/query/parse";
import { printQuery } from "@/core/query/print";
import { COMPARISONS, isUnknownTest, type Term, type Value } from "@/core/query/query";
import { brokenByItem, DEFAULT_RULES, findings } from "@/core/rules/findings";
import { judge, momentOf } from "@/core/rules/judging";
import { LEVELS } from "@/core/rules/risk";
import { byText, fold } from "@/core/text/text";
import { DAY, FIRST_INSTANT, HOUR, LAST_INSTANT, NEVER } from "@/core/time/instant";
import { anyInstant, estates, news } from "@/tests/randomEstates";
import { inDays, party, T } from "@/tests/records";
import { NAMES as SCRIPTS } from "@/tests/scripts";
import { knownRows, meetsAll, type PlainRow, plainCounts, plainlySorted, plainRows } from "@/tests/registerModel";
import { Book } from "./book";

/** Names, labels, parties, work and instants of all sorts, laid over the random estates. */
const NAMES = [
  ...["Tour plan", "Zoë's scores.pdf", "tour", "Budget 2026", "Résumé_final", "Ünal, plans"],
  ...SCRIPTS.map(([, name]) => name),
];
const dressed = fc.tuple(estates, fc.array(fc.nat(), { minLength: 8, maxLength: 8 })).map(([records, picks]) => [
  ...records.map((record, n): EstateRecord => {
    const pick = picks[n % picks.length] + n;
    switch (record.type) {
      case "item":
        return {
          ...record,
          kind: pick % 3 === 0 ? "file" : "folder",
          name: NAMES[pick % NAMES.length],
          label: ([null, "public", "confidential", "restricted"] as const)[pick % 4],
        };
      case "person":
        return {
          ...record,
          name: pick % 3 === 0 ? "Same Name" : record.name,
          department: pick % 2 === 0 ? "Stage" : null,
        };
      case "link":
        return {
          ...record,
          lastUsedAt: pick % 4 === 0 ? null : inDays(-(pick % 90)),
          createdAt: inDays(-(pick % 400) - 1),
          createdBy: pick % 2 === 0 ? "p0" : "p4",
        };
      case "grant":
        return { ...record, lastUsedAt: pick % 3 === 0 ? null : inDays(-(pick % 70)), grantedBy: "p1" };
      default:
        return record;
    }
  }),
  party("quay.example", "trusted"),
  party("bücher.example", "personal"),
  {
    type: "engagement" as const,
    id: "e",
    name: "Coastal tour",
    itemIds: ["i0", "i2"],
    organisations: ["quay.example"],
    startsAt: inDays(-90),
    endsAt: inDays(-6),
  },
]);

const value = (known: readonly string[] | undefined): fc.Arbitrary<Value> =>
  known
    ? fc.constantFrom(...known, NONE).map((text) => ({ text, exact: true }))
    : fc.oneof(
        fc
          .constantFrom("odo", "quay.example", "ada@home.example", "Stage", "Same Name", "st", "Coastal tour")
          .map((text) => ({ text, exact: true })),
        fc.constantFrom("o", "quay", "ada", "stage", "coastal", NONE).map((text) => ({ text, exact: false })),
      );
const comparison = fc.constantFrom(...COMPARISONS);
const moments = fc.oneof(
  fc.constant({ kind: "never" as const }),
  fc.record({
    kind: fc.constant("age" as const),
    comparison: fc.constantFrom("<", ">", "<=", ">="),
    seconds: fc.oneof(
      fc.nat(100).map((n) => n * DAY),
      fc.nat(99).map((n) => n * HOUR),
    ),
  }),
  fc.tuple(comparison, fc.integer({ min: -100, max: 30 })).map(([comparison, days]) => {
    const from = Math.floor(T / DAY) * DAY + days * DAY;
    return { kind: "date" as const, comparison, from, to: from + DAY };
  }),
  fc.tuple(comparison, fc.integer({ min: -900, max: 900 })).map(([comparison, minutes]) => {
    const from = T + minutes * 60;
    return { kind: "date" as const, comparison, from, to: from + 60 };
  }),
);

const conditions = fc.oneof(
  fc.record({
    kind: fc.constant("words"),
    values: fc.array(
      fc.constantFrom("tour", "ZOE", "plan", "scores.pdf", "bud", "quay", "l1", "résumé", "store st", "x-y"),
      { minLength: 1, maxLength: 2 },
    ),
  }),
  fc.constantFrom(...CHOICE_NAMES.filter((name) => !isLookedUp(name))).chain((field) =>
    fc.record({
      kind: fc.constant("choice"),
      field: fc.constant(field),
      values: fc.array(value(listedValues(field)), { minLength: 1, maxLength: 3 }),
    }),
  ),
  fc.record({ kind: fc.constant("moment"), field: fc.constantFrom(...MOMENT_NAMES), test: moments }),
  fc.record({ kind: fc.constant("count"), field: fc.constantFrom(...COUNT_NAMES), comparison, count: fc.nat(5) }),
);
const terms = fc.array(
  fc.tuple(conditions, fc.boolean()).map(([condition, negated]) => ({ ...condition, negated }) as Term),
  { maxLength: 4 },
);
const orders: fc.Arbitrary<Order> = fc.uniqueArray(
  fc.record({ by: fc.constantFrom(...SORTS), reversed: fc.boolean() }),
  { minLength: 1, maxLength: MOST_KEYS, selector: ({ by }) => by },
);
/** How time goes on: a second, an hour, days in which ends and dormancy come. */
const steps = fc.constantFrom(0, 1, HOUR, DAY, 9 * DAY, 31 * DAY, 200 * DAY);

/** Now, or any instant that a file can hold. */
const whenever = fc.oneof(fc.constantFrom(T, FIRST_INSTANT, LAST_INSTANT), anyInstant);

/** @param t what is before now is a past that records tell of from behind */
async function bookOf(records: readonly EstateRecord[], t = T) {
  const standing = new Standing();
  standing.estate.principals.asAt = t < T ? t : NEVER;
  const book = new Book(standing.estate);
  book.take(standing.apply({ put: records, removed: [] }));
  return { standing, book };
}

jest.setTimeout(120_000);

const asked = { group: null, open: [], from: 0, count: 500 };

test("every fact of every row stays true while records change and time goes on", async () => {
  await fc.assert(
    fc.asyncProperty(dressed, fc.array(fc.tuple(news, steps), { maxLength: 3 }), async (records, changes) => {
      const { standing, book } = await bookOf(records);
      let t = T;
      for (const [put, step] of [[[], 0] as const, ...changes]) {
        book.take(standing.apply({ put, removed: [] }));
        t += step;
        const { page, total } = await book.page({ ...asked, query: "", order: [{ by: "risk", reversed: false }] }, t);
        const plain = plainlySorted(plainRows(standing.estate, t), [{ by: "risk", reversed: false }]);
        expect(page.map((line) => line.kind === "share" && line.row)).toEqual(plain.map(({ row }) => row));
        const known = knownRows(standing.estate, t).map(({ row }) => row);
        expect(
          await book.rows(
            known.map(({ id }) => id),
            t,
          ),
        ).toEqual(known);
        expect(total).toBe(plain.length);
        const items = findings(judge(standing.estate, t)).filter(
          ({ risk, subject, item }) => risk === null && subject === item,
        );
        for (let at = 0; at < standing.estate.tree.length; at++) {
          const broken = brokenByItem(momentOf(standing.estate, t), at, DEFAULT_RULES);
          const id = standing.estate.tree.idAt(at);
          expect([...broken].sort()).toEqual(items.filter(({ subject }) => subject === id).map(({ rule }) => rule));
        }
      }
    }),
    { numRuns: 150 },
  );
});

test("a query finds and sorts what a plain predicate over rows does, and every facet counts what there is", async () => {
  await fc.assert(
    fc.asyncProperty(
      dressed,
      whenever,
      fc.array(fc.tuple(terms, orders), { minLength: 1, maxLength: 6 }),
      async (records, t, queries) => {
        const { standing, book } = await bookOf(records, t);
        const rows = knownRows(standing.estate, t);
        for (const [given, order] of queries) {
          const query = printQuery(given);
          expect(parseQuery(query)).toEqual({ terms: given, problems: [] });
          const found = plainlySorted(
            rows.filter((row) => meetsAll(row, given, t)),
            order,
          );
          const answer = await book.page({ ...asked, query, order }, t);
          expect(answer.page.map((line) => line.kind === "share" && line.row.id)).toEqual(
            found.map(({ row }) => row.id),
          );
          expect(answer.found).toBe(found.length);
          const isUse = (term: Term) => term.kind === "moment" && term.field === "used";
          const wanted = t < T && given.some((term) => isUse(term) && !isUnknownTest(term));
          const others = rows.filter((row) =>
            meetsAll(
              row,
              given.filter((term) => !isUse(term)),
              t,
            ),
          );
          expect(answer.useUnknown).toBe(wanted ? others.filter(({ row }) => !row.isUseKnown).length : null);
          expect([...(await book.ids(query, t))].sort()).toEqual(found.map(({ row }) => row.id).sort());
          const funnel = await book.funnel(query, t);
          for (const field of FACETS) {
            const { top } = await book.facet({ query, field, text: "", most: 100 }, t);
            const counts = new Map(top.map(({ value, count }) => [value, count]));
            expect([field, counts]).toEqual([field, plainCounts(rows, given, field, t)]);
          }
          for (const { field, counts, never } of funnel.histograms) {
            const plain = plainCounts(rows, given, field, t);
            expect([...counts, never]).toEqual([...counts.keys(), "never"].map((span) => plain.get(String(span)) ?? 0));
          }
        }
      },
    ),
    { numRuns: 150 },
  );
});

const grouped = fc.record({ group: fc.constantFrom(...GROUPINGS), groups: fc.constantFrom(...GROUP_ORDERS) });

/** What the line of a group should say of its shares. */
function plainTotals(rows: readonly PlainRow[]): GroupTotals {
  const risks = rows.flatMap(({ row }) => (row.risk ? [LEVELS.indexOf(row.risk)] : []));
  const uses = rows.flatMap(({ row }) => row.lastUsed ?? []);
  return {
    count: rows.length,
    risk: risks.length === 0 ? null : LEVELS[Math.max(...risks)],
    open: rows.filter(({ row }) => Object.values(row.latches).includes("demanded")).length,
    lastUsed: uses.length === 0 ? null : Math.max(...uses),
  };
}

/** What groups are sorted by, the largest first. */
const MEASURES: Partial<Record<GroupOrder, (totals: GroupTotals) => number>> = {
  count: ({ count }) => count,
  risk: ({ risk }) => (risk === null ? -1 : LEVELS.indexOf(risk)),
  latches: ({ open }) => open,
  used: ({ lastUsed }) => lastUsed ?? -Infinity,
};

test("groups hold and say what they should, in the order that is asked for, and folders what lies below them", async () => {
  await fc.assert(
    fc.asyncProperty(dressed, orders, grouped, fc.nat(3), async (records, order, { group, groups }, shut) => {
      const { standing, book } = await bookOf(records);
      const { estate } = standing;
      const rows = plainlySorted(plainRows(estate, T), order);
      const folderOf = (slot: number) => {
        const at = estate.shares.position[slot];
        const isWithin = estate.tree.kindAt(at) === "file" && estate.tree.parent[at] >= 0;
        return isWithin ? estate.tree.parent[at] : at;
      };
      const keysOf = ({ row, values, slot }: PlainRow): string[] => {
        if (group === "item") return [row.itemId];
        if (group === "maker") return [values.maker[0] ?? ""];
        if (group === "organisation") return row.organisations.length > 0 ? row.organisations : [""];
        const above = [];
        for (let at = folderOf(slot); at >= 0; at = estate.tree.parent[at]) above.push(estate.tree.idAt(at));
        return above;
      };
      const keys = [...new Set(rows.flatMap(keysOf))];
      const open = keys.filter((_, n) => n % 4 !== shut);
      const told = { query: "", order, group, groups, open };
      const { page, lines } = await book.page({ ...told, from: 0, count: 500 }, T);
      const heads = page.flatMap((line) => (line.kind === "group" ? [line] : []));
      for (const head of heads) {
        expect(head).toMatchObject(plainTotals(rows.filter((row) => keysOf(row).includes(head.key))));
        expect(head.isOpen).toBe(open.includes(head.key));
        const below = page.slice(page.indexOf(head) + 1);
        const own = below.slice(
          0,
          Math.max(
            below.findIndex((line) => line.kind === "group"),
            -1,
          ) >>> 0,
        );
        const wanted = rows.filter(
          (row) => (group === "folder" ? keysOf(row)[0] : keysOf(row).find((key) => key === head.key)) === head.key,
        );
        expect(own.map((line) => line.kind === "share" && line.row.id)).toEqual(
          head.isOpen ? wanted.map(({ row }) => row.id) : [],
        );
      }
      const measure = MEASURES[groups];
      if (measure && group !== "folder") expect(heads.map(measure)).toEqual(heads.map(measure).sort((a, b) => b - a));
      if (groups === "name" && group !== "folder")
        expect(heads.map(({ title }) => title)).toEqual(
          heads.map(({ title }) => title).sort((a, b) => byText(fold(a), fold(b))),
        );
      if (groups === "first" && group !== "folder")
        expect(heads.map(({ key }) => key)).toEqual([
          ...new Set(group === "organisation" ? heads.map(({ key }) => key) : keys),
        ]);
      // Page by page it is the same.
      const pieces = [];
      for (let from = 0; from < lines; from += 3)
        pieces.push(...(await book.page({ ...told, from, count: 3 }, T)).page);
      expect(pieces).toEqual(page);
    }),
  );
});

test("a list goes on behind a share, also where that share has gone from it", async () => {
  await fc.assert(
    fc.asyncProperty(dressed, orders, fc.nat(20), async (records, order, n) => {
      const { standing, book } = await bookOf(records);
      const rows = plainlySorted(plainRows(standing.estate, T), order).map(({ row }) => row);
      const behind = rows[n % Math.max(rows.length, 1)];
      fc.pre(behind !== undefined);
      for (const query of ["", `-${printQuery([{ kind: "words", values: [behind.id], negated: false }])}`]) {
        const answer = await book.page({ ...asked, query, order, behind: behind.id }, T);
        expect(answer.page.map((line) => line.kind === "share" && line.row.id)).toEqual(
          rows.slice(rows.indexOf(behind) + 1).map(({ id }) => id),
        );
      }
    }),
  );
});
