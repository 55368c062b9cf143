import { shownName } from "@/core/text/shown";
import SQLite from "better-sqlite3";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Standing } from "@/core/access/standing";
import type { EstateRecord } from "@/core/estate/records";
import { file, grant, group, head, inDays, item, link, NOW, person, store, T } from "@/tests/records";
import { NAMES } from "@/tests/scripts";
import { Book } from "./book";
import { Reading } from "./reading";

const folder = mkdtempSync(join(tmpdir(), "latch-reading-"));
const path = join(folder, "reading");
afterAll(() => rmSync(folder, { recursive: true }));

const base: EstateRecord[] = [
  head(),
  store(),
  person("in", "in@home.example", { name: "Ida Nox" }),
  person("out", "odo@quay.example", { name: "Odo Quillby" }),
  ...group("crew", "out"),
  item("a", null, { name: "Coastal tour" }),
  file("f", "a", { name: "Itinerary.pdf" }),
  file("g", "a", { name: "Façade study" }),
  link("l1", "f"),
  link("l2", "g"),
  grant("s1", "g", "crew"),
];

/** The register over some records, with its copy at the path of this file. */
async function open(records: readonly EstateRecord[] = base) {
  const standing = new Standing();
  const reading = await Reading.open(path);
  const book = new Book(standing.estate, reading);
  const put = (more: readonly EstateRecord[]) => book.take(standing.apply({ put: more, removed: [] }));
  put(records);
  await book.at(T);
  const found = async (query: string) => (await book.ids(query, T)).sort();
  return { book, reading, put, found };
}

/** What stands in the file, as another program sees it. */
function look<T>(sql: string): T[] {
  const db = new SQLite(path, { readonly: true });
  const rows = db.prepare(sql).all() as T[];
  db.close();
  return rows;
}

test.each(NAMES)(
  "%s: items, people and groups called %s are found however that is typed",
  async (_, name, ...asked) => {
    const { book, found } = await open([
      ...base,
      person("p", "p@quay.example", { name }),
      { type: "group", id: "named", name },
      file("h", null, { name }),
      link("by-name", "h"),
      grant("by-person", "f", "p"),
      grant("by-group", "f", "named"),
      link("by-maker", "f", { createdBy: "p" }),
    ]);
    const all = ["by-group", "by-maker", "by-name", "by-person"];
    for (const text of asked) {
      expect([text, await found(`"${text}"`)]).toEqual([text, all]);
      expect([text, await found(`maker:"${name}"`)]).toEqual([text, ["by-maker"]]);
      const { top } = await book.facet({ query: "", field: "maker", text, most: 5 }, T);
      expect([text, top.map(({ title }) => title)]).toEqual([text, [shownName(name)]]);
      // As it is shown it is found too: from there a facet is asked about.
      expect(await found(`maker:"${shownName(name)}"`)).toEqual(["by-maker"]);
    }
    await book.close();
  },
);

test("words are found from their beginnings on, in names, places, people and groups", async () => {
  const { book, found } = await open();
  expect(await found("itin")).toEqual(["l1"]);
  expect(await found("coastal")).toEqual(["l1", "l2", "s1"]);
  expect(await found("facade")).toEqual(["l2", "s1"]);
  expect(await found("odo")).toEqual(["s1"]);
  expect(await found('"group crew"')).toEqual(["s1"]);
  expect(await found("quay.ex")).toEqual(["s1"]);
  expect(await found("tinerary")).toEqual([]);
  await book.close();
});

test("what a query holds is never a part of what SQLite is told", async () => {
  const { book, found } = await open();
  for (const text of ['x" OR name:*', "NEAR(a b)", "a* OR b*", "'; drop table shown; --", "name:itinerary"]) {
    expect(Array.isArray(await found(`"${text.replace(/"/g, '\\"')}"`))).toBe(true);
  }
  expect(look("select count(*) as count from shown")).toEqual([{ count: 3 }]);
  await book.close();
});

test("a new name counts from then on, also for all that lies below it, and the old one no more", async () => {
  const { book, put, found } = await open();
  put([item("a", null, { name: "Winter season" })]);
  expect([await found("coastal"), await found("winter")]).toEqual([[], ["l1", "l2", "s1"]]);
  const { page } = await book.page(
    { query: "itin", order: [{ by: "risk", reversed: false }], group: null, open: [], from: 0, count: 1 },
    T,
  );
  expect(page[0].kind === "share" && page[0].row.place).toEqual(["Winter season"]);
  put([person("out", "odo@quay.example", { name: "Odo Umberlow" })]);
  expect([await found("quillby"), await found("umberlow")]).toEqual([[], ["s1"]]);
  await book.close();
});

test("the table follows the register: what changes, what goes, what comes", async () => {
  const { book, put } = await open();
  put([link("l1", "f", { role: "edit" }), link("l2", "g", { revokedAt: inDays(-366) }), link("l3", "a")]);
  await book.at(T);
  expect(look("select id, role, itemName from shown order by id")).toEqual([
    { id: "l1", role: "edit", itemName: "Itinerary.pdf" },
    { id: "l3", role: "view", itemName: "Coastal tour" },
    { id: "s1", role: "view", itemName: "Façade study" },
  ]);
  await book.close();
});

test("another estate in another order takes the place of what was kept, down to the words", async () => {
  const first = await open();
  await first.book.close();
  const others = [
    ...base.slice(0, 7),
    file("z", "a", { name: "Poster" }),
    file("f", "a", { name: "Rider" }),
    link("l1", "f"),
    link("z1", "z"),
  ];
  const { book, found } = await open(others);
  expect([await found("itin"), await found("rider"), await found("poster")]).toEqual([[], ["l1"], ["z1"]]);
  expect(
    look<{ id: string }>("select id from shown")
      .map(({ id }) => id)
      .sort(),
  ).toEqual(["l1", "z1"]);
  await book.close();
});

test.each([
  ["is no database at all", () => writeFileSync(path, "nonsense, and more of it than a header has ".repeat(40))],
  [
    "is of another version",
    () => new SQLite(path).exec("pragma user_version = 99; drop table if exists shown").close(),
  ],
])("a copy that %s is made again", async (_, spoil) => {
  const first = await open();
  await first.book.close();
  spoil();
  const { book, found } = await open();
  expect([await found("itin"), look("select count(*) as count from shown")]).toEqual([["l1"], [{ count: 3 }]]);
  await book.close();
});

test("a share that changes together with everything else is not passed over", async () => {
  const { book, put } = await open();
  // Nothing that is worked out turns on it: no rule minds how far off an end is that is too far.
  put([link("l1", "f", { expiresAt: "2030-01-01T00:00:00Z" })]);
  await book.at(T);
  put([person("new", "new@home.example"), link("l1", "f", { expiresAt: "2031-01-01T00:00:00Z" })]);
  await book.at(T);
  expect(look("select expires from shown where id = 'l1'")).toEqual([{ expires: Date.UTC(2031, 0) / 1000 }]);
  await book.close();
});

test("a store with another name is found by it, and counted under it", async () => {
  const { book, put, found } = await open();
  expect(await found('store:"Store st"')).toHaveLength(3);
  put([{ ...store(), name: "Cellar" }]);
  expect([await found("store:cellar"), await found('store:"Store st"')]).toEqual([["l1", "l2", "s1"], []]);
  const { top } = await book.facet({ query: "", field: "store", text: "", most: 5 }, T);
  expect(top).toMatchObject([{ title: "Cellar", count: 3 }]);
  await book.close();
});

test("rows come piece by piece, each behind the last, also where that one has gone meanwhile", async () => {
  const { book, put } = await open();
  const asked = { query: "", order: [{ by: "item" as const, reversed: false }], count: 2 };
  const first = await book.some(asked, T);
  expect(first.map(({ id }) => id)).toEqual(["l2", "s1"]);
  put([grant("s1", "g", "crew", { revokedAt: NOW })]);
  expect((await book.some({ ...asked, behind: "s1" }, T)).map(({ id }) => id)).toEqual(["l1"]);
  await book.close();
});
