import { HOSTILE, LYING } from "@/tests/corpus";
import { fold } from "./text";
import { shownName, withoutIsolates } from "./shown";

test("names that hide nothing stay as they are", () => {
  const names = [
    "Passport scans.pdf",
    "Zoë’s plan – final",
    "Лист 7",
    "座席表.xlsx",
    "👩‍👩‍👧‍👦 ❤️ 1️⃣",
    // Persian and Malayalam need their joiners.
    "\u0d15\u0d4d\u200d",
    "葛\u{e0100}".normalize(),
  ];
  expect(names.slice(0, -1).map(shownName)).toEqual(names.slice(0, -1));
  expect(withoutIsolates(shownName("می\u200cخواهم"))).toBe("می\u200cخواهم");
});

test.each([
  ["a line end", "two\nlines\r", "two␊lines␍"],
  ["a tab, a null, an escape, a delete", "a\tb\0c\x1bd\x7f", "a␉b␀c␛d␡"],
  ["ends of lines and paragraphs of Unicode", "a\u2028b\u2029c", "a␤b␤c"],
  ["what turns text round", "invoice\u202egnp.exe", "invoice␦gnp.exe"],
  ["isolates, which could end our own", "a\u2066b\u2069\u2068c", "a␦b␦␦c"],
  ["marks of direction", "a\u200e\u200f\u061cb", "a␦␦␦b"],
  ["what has no width", "pass\u200bport\ufeff\u2060", "pass␦port␦␦"],
  ["joiners that join nothing", "p\u200da\u200cy", "p␦a␦y"],
  ["soft hyphens and fillers", "a\u00adb\u3164c", "a␦b␦c"],
  ["controls of the second set", "a\u0085b\u009fc", "a␦b␦c"],
  ["tags, in which whole texts hide", "a\u{e0041}\u{e007f}", "a␦␦"],
  ["half a surrogate pair", "a\ud800b\udc00", "a\ufffdb\ufffd"],
])("%s is a mark", (_, name, shown) => {
  expect(shownName(name)).toBe(shown);
});

test("a name from right to left runs so by itself, and what follows it doesn't", () => {
  expect(shownName("תוכנית 7")).toBe("\u2068תוכנית 7\u2069");
  expect(withoutIsolates(shownName("תוכנית 7"))).toBe("תוכנית 7");
  // Its own marks can't end ours.
  expect(shownName("תוכנית\u2069 7")).toBe("\u2068תוכנית␦ 7\u2069");
});

test("a name of 64 KB is cut, and says by how much", () => {
  const shown = shownName("x".repeat(65_536));
  expect(shown.length).toBeLessThan(300);
  expect(shown.endsWith("… (65,276 more characters)")).toBe(true);
  expect(shownName("👩".repeat(301))).toBe(`${"👩".repeat(260)}… (41 more characters)`);
  expect(shownName("👩".repeat(300))).toBe("👩".repeat(300));
});

test("whoever looks for a name need not know what hides in it", () => {
  expect(fold(shownName("pass\u200bport\u202e Scans"))).toBe("passport scans");
});

test("a name that is shown already stays as it is, by itself and among others", () => {
  for (const name of [...HOSTILE, "תוכנית 7", "x".repeat(301)]) {
    const shown = shownName(name);
    expect(shownName(shown)).toBe(shown);
    expect(LYING.test(shown)).toBe(false);
  }
  const path = [shownName("תוכנית"), shownName("Plan\n"), shownName("خطة")].join(" / ");
  expect(shownName(path)).toBe(path);
});
