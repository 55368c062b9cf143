import { shownName } from "@/core/text/shown";
import { Standing } from "@/core/access/standing";
import type { EstateRecord } from "@/core/estate/records";
import { file, grant, group, head, inDays, item, link, named, NOW, person, store, T } from "@/tests/records";
import { NAMES } from "@/tests/scripts";
import { Book } from "./book";

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

/** The register over some records. */
function open(records: readonly EstateRecord[] = base) {
  const standing = new Standing();
  const book = new Book(standing.estate);
  const put = (more: readonly EstateRecord[]) => book.take(standing.apply({ put: more, removed: [] }));
  put(records);
  const found = async (query: string) => (await book.ids(query, T)).sort();
  const row = (id: string) => book.rows([id], T)[0];
  return { book, put, found, row };
}

test.each(NAMES)(
  "%s: items, people and groups called %s are found however that is typed",
  async (_, name, ...asked) => {
    const { book, found } = open([
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
  },
);

test("words are found from their beginnings on, in names, places, people and groups", async () => {
  const { found } = open();
  expect(await found("itin")).toEqual(["l1"]);
  expect(await found("coastal")).toEqual(["l1", "l2", "s1"]);
  expect(await found("facade")).toEqual(["l2", "s1"]);
  expect(await found("odo")).toEqual(["s1"]);
  expect(await found('"group crew"')).toEqual(["s1"]);
  expect(await found("quay.ex")).toEqual(["s1"]);
  expect(await found("tinerary")).toEqual([]);
});

test("signs are no words: what has none is found nowhere, and what has some by them", async () => {
  const { found } = open();
  expect(await found('"itinerary.PDF!"')).toEqual(["l1"]);
  // Words follow each other within one name, not from one name to the next.
  expect(await found('"tour itinerary"')).toEqual([]);
});

test("a new name counts from then on, also for all that lies below it, and the old one no more", async () => {
  const { book, put, found } = open();
  put([item("a", null, { name: "Winter season" })]);
  expect([await found("coastal"), await found("winter")]).toEqual([[], ["l1", "l2", "s1"]]);
  const { page } = await book.page(
    { query: "itin", order: [{ by: "risk", reversed: false }], group: null, open: [], from: 0, count: 1 },
    T,
  );
  expect(page[0].kind === "share" && page[0].row.place).toEqual(["Winter season"]);
  put([person("out", "odo@quay.example", { name: "Odo Umberlow" })]);
  expect([await found("quillby"), await found("umberlow")]).toEqual([[], ["s1"]]);
});

test("rows are of what is so now: what changes, what goes, what comes", async () => {
  const { put, row, found } = open();
  // Words were looked through before: what comes later is found beside them.
  expect(await found("itin")).toEqual(["l1"]);
  put([link("l1", "f", { role: "edit" }), link("l2", "g", { revokedAt: inDays(-366) }), link("l3", "a")]);
  expect([row("l1").role, row("l2"), row("l3").itemName]).toEqual(["edit", undefined, "Coastal tour"]);
  put([file("n", null, { name: "Pressing plant" }), link("l4", "n")]);
  expect([await found("pressing"), await found("itin")]).toEqual([["l4"], ["l1"]]);
  put([named("l5", "f", ["new.face@wharf.example"])]);
  expect(await found("wharf.example")).toEqual(["l5"]);
  put([file("n", null, { name: "Itinerary two" })]);
  expect([await found("pressing"), await found("itin")]).toEqual([[], ["l1", "l4", "l5"]]);
});

test("a share that changes together with everything else is not passed over", () => {
  const { put, row } = open();
  // Nothing that is worked out turns on it: no rule minds how far off an end is that is too far.
  put([link("l1", "f", { expiresAt: "2030-01-01T00:00:00Z" })]);
  row("l1");
  put([person("new", "new@home.example"), link("l1", "f", { expiresAt: "2031-01-01T00:00:00Z" })]);
  row("l1");
  expect(row("l1").expires).toBe(Date.UTC(2031, 0) / 1000);
});

test("a store with another name is found by it, and counted under it", async () => {
  const { book, put, found } = open();
  expect(await found('store:"Store st"')).toHaveLength(3);
  put([{ ...store(), name: "Cellar" }]);
  expect([await found("store:cellar"), await found('store:"Store st"')]).toEqual([["l1", "l2", "s1"], []]);
  const { top } = await book.facet({ query: "", field: "store", text: "", most: 5 }, T);
  expect(top).toMatchObject([{ title: "Cellar", count: 3 }]);
});

test("rows come piece by piece, each behind the last, also where that one has gone meanwhile", async () => {
  const { book, put } = open();
  const asked = { query: "", order: [{ by: "item" as const, reversed: false }], count: 2 };
  const first = await book.some(asked, T);
  expect(first.map(({ id }) => id)).toEqual(["l2", "s1"]);
  put([grant("s1", "g", "crew", { revokedAt: NOW })]);
  expect((await book.some({ ...asked, behind: "s1" }, T)).map(({ id }) => id)).toEqual(["l1"]);
});
