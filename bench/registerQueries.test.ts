import type SQLite from "better-sqlite3";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildEstate } from "@/core/estate/estate";
import { SORTS } from "@/core/query/order";
import { Random } from "@/demo/random";
import { Book } from "@/server/engine/book";
import { generateEstate } from "./generate";
import { mixedQuery, readingInSql } from "./registerQueries";

/** The register beside SQLite over the same rows: what is measured against each other must be the same. */
const folder = mkdtempSync(join(tmpdir(), "latch-mixed-"));
const estate = buildEstate(generateEstate(3_000, 1, 2_000));
const t = estate.asOf;
const PAGE = 40;
let book: Book;
let sql: SQLite.Database;

beforeAll(async () => {
  const path = join(folder, "reading");
  book = new Book(estate);
  await book.at(t);
  sql = readingInSql(path, book.register);
});

afterAll(async () => {
  sql.close();
  rmSync(folder, { recursive: true });
});

test("mixed queries count and begin as the same SQL does, in every order that is offered", async () => {
  const random = new Random(17);
  const sorts = new Set<string>();
  let found = 0;
  for (let n = 0; n < 300; n++) {
    const { query, order, where, orderBy } = mixedQuery(random, t);
    const page = await book.page({ query, order, group: null, open: [], from: 0, count: PAGE }, t);
    const { count } = sql.prepare(`select count(*) as count from shown where ${where}`).get() as { count: number };
    const ids = sql.prepare(`select id from shown where ${where} order by ${orderBy} limit ${PAGE}`).pluck().all();
    expect([query, page.found]).toEqual([query, count]);
    expect([query, order, page.page.map((line) => line.kind === "share" && line.row.id)]).toEqual([query, order, ids]);
    for (const { by } of order) sorts.add(by);
    found += count;
  }
  // Otherwise nothing would have been compared.
  expect([sorts.size, found > 10_000]).toEqual([SORTS.length, true]);
});

test("facets count what SQL counts", async () => {
  const random = new Random(23);
  for (let n = 0; n < 60; n++) {
    const { query, where } = mixedQuery(random, t);
    const { top } = await book.facet({ query: `kind:folder ${query}`, field: "maker", text: "", most: 5 }, t);
    const counts = sql
      .prepare(
        `select count(*) from shown where itemKind = 'folder' and ${where} group by maker order by 1 desc limit 5`,
      )
      .pluck()
      .all();
    expect([query, top.map(({ count }) => count)]).toEqual([query, counts]);
  }
});
