import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildEstate } from "../core/estate/estate";
import { Choices } from "../core/query/choices";
import { Listing } from "../core/query/listing";
import { type Order, SortColumns, SORTS } from "../core/query/order";
import { parseQuery } from "../core/query/parse";
import { Selector } from "../core/query/select";
import { Random } from "../demo/random";

import { Book } from "../server/engine/book";
import { csvOf } from "../server/register/tables";
import { generateEstate } from "./generate";
import { memoryInUse } from "./memory";
import { mixedQuery, readingInSql } from "./registerQueries";
import type { Report } from "./report";
import { timed } from "./timing";

const ITEMS = 1_000_000;
const QUERIES = 200;
const WARM_UPS = 60;
const PAGE = 100;
/** What is wanted at a quarter of a million shares, and at a million. */
const WANTED: Record<string, [number, number]> = {
  page: [10, 30],
  facets: [40, 120],
  words: [40, Infinity],
  ids: [50, 150],
};

/** The register over a million items: queries of all kinds, each beside the same as bare SQL. */
export async function measureRegister(report: Report, shares: number) {
  const folder = mkdtempSync(join(tmpdir(), "latch-register-"));
  const estate = buildEstate(generateEstate(ITEMS, 1, shares));
  const t = estate.asOf;
  const path = join(folder, "reading");
  const book = new Book(estate);
  const add = (what: string, value: number, unit: "ms" | "MB" | "rows/s", wanted: number | null = null) =>
    report.add({ size: shares, what, value, unit, wanted, isAsked: true });
  const wantedOf = (what: string) => {
    const wanted = WANTED[what][shares > 500_000 ? 1 : 0];
    return Number.isFinite(wanted) ? wanted : null;
  };
  const began = performance.now();
  await book.at(t);
  add("register worked out, once", performance.now() - began, "ms");
  const later = await timed(20, (run) => book.register.at(t + 60 * (run + 1)));
  add("an instant later", later.median, "ms");
  book.register.at(t);

  const { register } = book;
  const selector = new Selector(register, new Choices(register));
  const sorts = new SortColumns(register);
  for (const by of SORTS) for (const reversed of [false, true]) sorts.keys([{ by, reversed }]);
  const random = new Random(3);
  const asked = Array.from({ length: QUERIES + WARM_UPS }, () => mixedQuery(random, t));
  const none = () => new Uint8Array(0);
  const first = (run: number) => {
    const { query, order } = asked[run + WARM_UPS];
    const listing = new Listing(selector.select(parseQuery(query).terms, t, none), sorts.keys(order));
    return { count: listing.length, slots: listing.slots(0, PAGE) };
  };
  const ours = await timed(QUERIES, first, WARM_UPS);
  add("filters, sort, count and first page, median", ours.median, "ms");
  add("filters, sort, count and first page, p95", ours.p95, "ms", wantedOf("page"));

  const sql = readingInSql(path, register);
  // SQLite takes seconds for one at a million.
  const bare = await timed(shares > 500_000 ? QUERIES / 5 : QUERIES, (run) => {
    const { where, orderBy } = asked[run + WARM_UPS];
    const { count } = sql.prepare(`select count(*) as count from shown where ${where}`).get() as { count: number };
    const rows = sql.prepare(`select slot from shown where ${where} order by ${orderBy} limit ${PAGE}`).pluck().all();
    return compare(asked[run + WARM_UPS].query, first(run), count, rows as number[]);
  });
  // Comparing takes our own time once more.
  const baseline = {
    what: "the same as SQL in better-sqlite3",
    value: bare.p95 - ours.p95,
    wantedRatio: shares > 500_000 ? 10 : 0,
  };
  report.add({
    size: shares,
    what: "filters, sort, count and first page, p95",
    value: ours.p95,
    unit: "ms",
    wanted: null,
    baseline,
  });
  sql.close();

  const facets = await timed(QUERIES, (run) => book.funnel(asked[run + WARM_UPS].query, t), WARM_UPS);
  add("counts of all facets, p95", facets.p95, "ms", wantedOf("facets"));
  const words = new Set<string>();
  while (words.size < QUERIES + 20) words.add(wordOf(random));
  const phrases = [...words];
  const found = await timed(
    QUERIES,
    (run) =>
      book.page(
        {
          query: phrases[run + 20],
          order: [{ by: random.pick([...SORTS]), reversed: random.chance(0.5) }],
          group: null,
          open: [],
          from: 0,
          count: PAGE,
        },
        t,
      ),
    20,
  );
  add("words in names and places, any sort, first page, p95", found.p95, "ms", wantedOf("words"));
  const ids = await timed(QUERIES, (run) => book.ids(asked[run + WARM_UPS].query, t), WARM_UPS);
  add("ids of all that match, p95", ids.p95, "ms", wantedOf("ids"));
  const every = await timed(20, () => book.ids("", t), 3);
  add("ids of every share, median", every.median, "ms");
  await measureExport(book, t, add);
  rmSync(folder, { recursive: true });
}

type Add = (what: string, value: number, unit: "ms" | "MB" | "rows/s", wanted?: number | null) => void;

async function measureExport(book: Book, t: number, add: Add) {
  const began = performance.now();
  let rows = 0;
  async function* pieces() {
    for (let behind: string | undefined; ;) {
      const order: Order = [{ by: "risk", reversed: false }];
      const { lines, last } = await book.csv({ query: "", order, behind, count: 2_000 }, t);
      rows += 2_000;
      yield lines;
      if (last === undefined) return;
      behind = last;
    }
  }
  for await (const _ of csvOf(pieces()));
  add("CSV", rows / ((performance.now() - began) / 1000), "rows/s", 50_000);
  const seen: number[] = [];
  rows = 0;
  for await (const _ of csvOf(pieces())) if (rows % 50_000 === 0) seen.push(memoryInUse());
  add("memory in use: its last sample in a CSV beside its first", (seen.at(-1)! - seen[0]) / 2 ** 20, "MB");
}

/** The beginning of a word of the generator's language, of two to six letters. */
function wordOf(random: Random): string {
  const syllables = "ba de fi go lu ma ne pi ro su ta ve wi xo yu ze".split(" ");
  const word = Array.from({ length: 3 }, () => random.pick(syllables)).join("");
  return word.slice(0, random.between(2, 6));
}

function compare(query: string, ours: { count: number; slots: Uint32Array }, count: number, rows: number[]) {
  if (ours.count !== count) throw new Error(`${query}: we count ${ours.count}, SQLite ${count}`);
  if (ours.slots.join() !== rows.join()) throw new Error(`${query}: our first page is not that of SQLite`);
}
