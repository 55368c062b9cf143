import fc from "fast-check";
import { estateOf, file, grant, inDays, item, link, named, person, T } from "@/tests/records";
import { registerRows } from "../register/row";
import { FIELD_NAMES } from "./fields";
import { matches, sortRows, SORTS } from "./match";
import { parseQuery } from "./parse";

const estate = estateOf(
  person("out2", "zoe@post.example", { name: "Zoe Umberlow" }),
  item("a", null, { name: "Coastal tour" }),
  file("f", "a", { name: "Itinerary.pdf", label: "confidential" }),
  file("p", "a", { name: "Poster.jpg", label: "public" }),
  link("old", "f", { lastUsedAt: inDays(-60), createdAt: inDays(-90) }),
  link("new", "p", { lastUsedAt: inDays(-1), expiresAt: inDays(10), createdAt: inDays(-2) }),
  link("never", "p", { lastUsedAt: null, createdAt: inDays(-2) }),
  grant("zoe", "f", "out2", { role: "edit", lastUsedAt: inDays(-3) }),
  named("inside", "p", ["in@home.example"], { lastUsedAt: inDays(-3) }),
);
const rows = registerRows(estate, T);
const found = (query: string) => rows.filter((row) => matches(row, parseQuery(query), T)).map((row) => row.id);
const every = rows.map((row) => row.id);

describe("what a query finds", () => {
  test.each([
    ["", every],
    ["reach:open", ["old", "new", "never"]],
    ["reach:open -used:<45d", ["old", "never"]],
    ["reach:open used:>45d", ["old"]],
    ["used:never", ["never"]],
    ["-used:never reach:open", ["old", "new"]],
    ["ends:<2w", ["new"]],
    ["ends:never reach:open", ["old", "never"]],
    ["ends:>30d reach:open", ["old", "never"]],
    ["made:<3d", ["new", "never"]],
    ["reach:open,person", ["old", "new", "never", "zoe"]],
    ["REACH:Open label:Public", ["new", "never"]],
    ["role:edit", ["zoe"]],
    ["label:confidential", ["old", "zoe"]],
    ["latch:password", ["old"]],
    ["rule:dormant", ["old"]],
    ["outside:no", ["inside"]],
    ["store:st", every],
    ["for:post.example", ["zoe"]],
    ["umberlow", ["zoe"]],
    ["itinerary", ["old", "zoe"]],
    ['"coastal tour" poster', ["new", "never", "inside"]],
    ['-"coastal tour"', []],
    ["no such words", []],
  ])("%s", (query, ids) => {
    expect(parseQuery(query).problems).toEqual([]);
    expect(found(query).sort()).toEqual([...ids].sort());
  });
});

describe("what isn't understood", () => {
  test.each([
    ["rech:open", 0, 9, "there is no field rech; did you mean reach?"],
    [
      "poster reach:opne",
      7,
      17,
      "reach: has no opne; did you mean open? It takes open, house, named, intake, person, group",
    ],
    ["used:45d", 0, 8, "used: takes <45d, >2w, >12h or never, not 45d"],
    ["used:<45y", 0, 9, "used: takes <45d, >2w, >12h or never, not <45y"],
    ["reach:", 0, 6, "reach: needs a value"],
    ["- poster", 0, 1, "a minus needs a word behind it"],
    ["constructor:x", 0, 13, "there is no field constructor; did you mean store?"],
  ])("%s is pointed at", (query, from, to, message) => {
    expect(parseQuery(query).problems).toEqual([{ from, to, message }]);
  });

  test("the rest of the query still counts", () => expect(found("rech:open role:edit")).toEqual(["zoe"]));
  test("a query that is far too long is refused as a whole", () => {
    expect(parseQuery("x".repeat(2_001))).toMatchObject({ terms: [], problems: [{ from: 2_000 }] });
  });
  test("any text is read to its end, and each problem lies within it", () => {
    const piece = fc.oneof(
      fc.string(),
      fc.constantFrom(...FIELD_NAMES.map((name) => `${name}:`), '"', ",", "-", "<9d"),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 8 }), (pieces) => {
        const text = pieces.join(" ");
        const { problems } = parseQuery(text);
        for (const { from, to } of problems) expect(0 <= from && from < to && to <= text.length).toBe(true);
        expect(Array.isArray(found(text))).toBe(true);
      }),
    );
  });
});

test("a negated part finds just what the part doesn't", () => {
  const parts = ["reach:open", "used:<45d", "ends:never", "poster", "label:public,internal", "rule:dormant"];
  for (const part of parts) expect([...found(part), ...found(`-${part}`)].sort()).toEqual([...every].sort());
});

test("every order holds all rows, and turning it round keeps equal rows in the order of their ids", () => {
  for (const sort of SORTS) {
    const forward = sortRows(rows, sort, false).map((row) => row.id);
    expect([...forward].sort()).toEqual([...every].sort());
  }
  expect(sortRows(rows, "ends", false)[0].id).toBe("new");
  expect(sortRows(rows, "used", false)[0].id).toBe("never");
  expect(
    sortRows(rows, "made", false)
      .map((row) => row.id)
      .slice(0, 2),
  ).toEqual(["never", "new"]);
});
