import fc from "fast-check";
import { plainFind } from "@/tests/registerModel";
import { estateOf, file, grant, inDays, item, link, named, person, T } from "@/tests/records";
import { Register } from "../register/register";
import { LAST_INSTANT } from "../time/instant";
import { Choices } from "./choices";
import { completionsAt } from "./complete";
import { FIELD_NAMES, FIELDS } from "./fields";
import { parseOrder, printOrder } from "./order";
import { parseQuery } from "./parse";
import { flagsOfPhrase } from "./phrases";
import { Places } from "./places";
import { printQuery } from "./print";
import { Selector } from "./select";

const estate = estateOf(
  person("out2", "zoe@post.example", { name: "Zoe Umberlow" }),
  item("a", null, { name: "Coastal tour" }),
  person("ida", "ida@home.example", { name: "Ida Wexelby" }),
  file("f", "a", { name: "Itinerary.pdf", label: "confidential", ownerId: "ida" }),
  file("p", "a", { name: "Poster.jpg", label: "public" }),
  link("old", "f", { lastUsedAt: inDays(-60), createdAt: inDays(-90) }),
  link("new", "p", { lastUsedAt: inDays(-1), expiresAt: inDays(10), createdAt: inDays(-2) }),
  link("never", "p", { lastUsedAt: null, createdAt: inDays(-2) }),
  grant("zoe", "f", "out2", { role: "edit", lastUsedAt: inDays(-3) }),
  named("inside", "p", ["in@home.example"], { lastUsedAt: inDays(-3) }),
  link("gone", "f", { revokedAt: inDays(-2), createdAt: inDays(-90), lastUsedAt: inDays(-60) }),
  link("long gone", "f", { revokedAt: inDays(-366) }),
);
const register = new Register(estate);
register.at(T);
const find = plainFind(estate);
const flags = (phrase: string) => flagsOfPhrase(register, new Places(register), phrase, find(phrase));
const selector = new Selector(register, new Choices(register));
const found = (query: string) =>
  Array.from(selector.select(parseQuery(query).terms, T, flags), (slot) => estate.shares.idOf(slot));
const every = found("");

describe("what a query finds", () => {
  test.each([
    ["", every],
    ["reach:open", ["old", "new", "never"]],
    // What was revoked within a year is found where that is asked for, and nowhere else.
    ["state:revoked", ["gone"]],
    ["state:revoked,live reach:open", ["old", "new", "never", "gone"]],
    ["state:revoked label:confidential itinerary", ["gone"]],
    ["state:revoked outside:yes", []],
    ["-state:revoked", every],
    ["-state:live", []],
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
    ["for:post", ["zoe"]],
    ["umberlow", ["zoe"]],
    ["itinerary", ["old", "zoe"]],
    ['"coastal tour" poster', ["new", "never", "inside"]],
    ['-"coastal tour"', []],
    ["coas", every],
    ["oastal", []],
    ["umberlow,poster", ["new", "never", "inside", "zoe"]],
    ["for:zoe@post.example", ["zoe"]],
    ['for:"post.example"', []],
    ["organisation:post.example", ["zoe"]],
    ["organisation:none reach:named", ["inside"]],
    ["risk:none", ["inside"]],
    ["maker:in@home", every],
    ["owner:ida", ["zoe", "old"]],
    ["owner:none reach:open", ["new", "never"]],
    ["password:set", []],
    ["password:none reach:open", ["old", "new", "never"]],
    ["download:blocked", []],
    ["download:possible reach:open", ["old", "new", "never"]],
    ["made:2026-10-03", ["new", "never"]],
    ["made:<2026-10-03 made:>=2026-07-07", ["old", "zoe", "inside"]],
    ["made:>2026-10-03T07:59Z", ["new", "never"]],
    ["ends:>2026-10-15", ["old", "never", "zoe", "inside"]],
    ["used:>=60d", ["old"]],
    ["people:1", ["zoe", "inside"]],
    ["outsiders:>0", ["zoe"]],
    ["items:>=2", []],
    ["findings:>2 -label:public", ["old"]],
    ["no such words", []],
  ])("%s", (query, ids) => {
    expect(parseQuery(query).problems).toEqual([]);
    expect(found(query).sort()).toEqual([...ids].sort());
  });
});

describe("what isn't understood", () => {
  test.each([
    [
      "rech:open",
      0,
      4,
      "there is no field rech; did you mean reach? To search for the text, put it in quotes",
      "reach",
    ],
    [
      "poster reach:opne",
      13,
      17,
      "reach: has no opne; did you mean open? It takes open, house, named, intake, person, group",
      "open",
    ],
    [
      "reach:open,hose,named",
      11,
      15,
      "reach: has no hose; did you mean house? It takes open, house, named, intake, person, group",
      "house",
    ],
    [
      "used:45d",
      5,
      8,
      "used: takes <45d, >2w, <=12h, >2026-03-31, 2026-03-31, >=2026-03-31T17:00Z, never or unknown, not 45d",
    ],
    [
      "made:2026-02-30",
      5,
      15,
      "made: takes <45d, >2w, <=12h, >2026-03-31, 2026-03-31, >=2026-03-31T17:00Z or never, not 2026-02-30",
    ],
    ["made:<1d,<2d", 9, 12, "made: takes one value; repeat made: for another"],
    ["items:many", 6, 10, "items: takes 3, >5 or <=100, not many"],
    ["reach:", 0, 6, "reach: needs a value"],
    ["reach:open,", 10, 11, "a value is missing next to the comma"],
    ["- poster", 0, 1, "a minus needs a word after it"],
    ["poster !!", 7, 9, "there is no letter or digit here to search for"],
    ['tour "half', 5, 10, "the quote that starts here has no end"],
    ['maker:a"b"', 7, 8, "quotes go around a whole value"],
    [
      "constructor:x",
      0,
      11,
      "there is no field constructor; did you mean store? To search for the text, put it in quotes",
      "store",
    ],
  ])("%s is pointed at", (...[query, from, to, message, instead]: (string | number | undefined)[]) => {
    const [problem, ...others] = parseQuery(String(query)).problems;
    expect([problem, others]).toEqual([{ from, to, message, ...(typeof instead === "string" && { instead }) }, []]);
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

test("what never ends, ends later than any number of days, at the last instant that there is too", () => {
  const foundThen = (query: string) =>
    Array.from(selector.select(parseQuery(query).terms, LAST_INSTANT, flags), (slot) => estate.shares.idOf(slot));
  expect([foundThen("ends:<1h"), foundThen("ends:>1h")]).toEqual([["new"], every.filter((id) => id !== "new")]);
});

test("a negated part finds just what the part doesn't", () => {
  const parts = ["reach:open", "used:<45d", "ends:never", "poster", "label:public,internal", "rule:dormant"];
  for (const part of parts) expect([...found(part), ...found(`-${part}`)].sort()).toEqual([...every].sort());
});

test("an order is read and printed", () => {
  for (const text of ["risk", "-ends", "item,-made"]) expect(printOrder(parseOrder(text)!)).toBe(text);
  for (const text of ["", "colour", "risk,risk", "risk,ends,made", "--risk"]) expect(parseOrder(text)).toBeNull();
});

test("quotes and backslashes within a value are kept", () => {
  const terms = [{ kind: "words" as const, values: ['a "b" \\ c', "-d:e"], negated: true }];
  expect(parseQuery(printQuery(terms))).toEqual({ terms, problems: [] });
});

describe("completion", () => {
  const at = (text: string) => completionsAt(text, text.length, FIELDS);
  test.each([
    ["re", 0, ["reach:"]],
    ["poster -ri", 8, ["risk:"]],
    ["reach:o", 6, ["open"]],
    ["reach:open,na", 11, ["named"]],
    ["label:", 6, ["public", "internal", "confidential", "restricted", "none"]],
    ["used:n", 5, ["never"]],
    ["poster", 0, []],
    ['"re', 0, []],
  ])("%s", (text, from, options) => {
    expect(at(text)).toMatchObject({ from, options: options.map((insert) => ({ insert })) });
  });
  test("values of the data are asked for", () => {
    expect(at('maker:"Imre V')).toMatchObject({ from: 6, field: "maker", typed: "Imre V" });
  });
});
