import { execFileSync } from "node:child_process";
import { NAMES, OTHERS } from "@/tests/scripts";
import { fold, piecesOf, standAmong, wordsIn } from "./text";

const finds = (asked: string, name: string) => standAmong(piecesOf(wordsIn(asked)), piecesOf(wordsIn(name)));

test.each(NAMES)("%s: %s is found however it is typed", (_, name, ...asked) => {
  expect(asked.filter((one) => !finds(one, name))).toEqual([]);
});

test.each(OTHERS)("%s: %s is not found by %s", (_, name, asked) => expect(finds(asked, name)).toBe(false));

test("what can't be seen parts no words", () => {
  expect(wordsIn("co\u00adastal\u200b tour\ufeff")).toEqual(["coastal", "tour"]);
});

/** Unicode's own case folding and compatibility forms, as Python's `str.casefold` and `unicodedata` have them. */
const PYTHON = `
import json, sys, unicodedata
pairs = []
for code in range(sys.maxunicode + 1):
    one = chr(code)
    if unicodedata.category(one) in ("Cn", "Cs", "Co"): continue
    for other in (one.casefold(), one.upper(), unicodedata.normalize("NFKC", one), unicodedata.normalize("NFD", one)):
        if other != one: pairs.append([one, other])
json.dump(pairs, sys.stdout)
`;

test("each character folds as its case folding and its compatible forms do, by Python's Unicode tables", () => {
  const out = execFileSync("python3", ["-c", PYTHON], { encoding: "utf8", maxBuffer: 2 ** 26 });
  const pairs = JSON.parse(out) as [string, string][];
  expect(pairs.length).toBeGreaterThan(20_000);
  // The small iota below a Greek letter is a mark to us, and left out; Unicode makes a letter of it.
  const isOfIota = (one: string) => one.normalize("NFD").includes("\u0345");
  expect(pairs.filter(([one, other]) => fold(one) !== fold(other) && !isOfIota(one))).toEqual([]);
});

test("folding what is folded changes nothing", () => {
  for (const [, name, ...asked] of NAMES)
    for (const text of [name, ...asked]) expect(fold(fold(text))).toBe(fold(text));
});
