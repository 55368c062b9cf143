import { parse } from "csv-parse/sync";
import { T } from "@/tests/records";
import type { Act } from "@/core/trail/act";
import { actLines } from "./exports";

const act = (name: string, more: Partial<Act> = {}): Act => ({
  seq: 1,
  at: T,
  source: "st",
  verb: "downloaded",
  who: {
    kind: "person",
    key: "a@quay.example",
    name,
    detail: "",
    people: ["a@quay.example"],
    organisations: ["quay.example"],
  },
  item: { kind: "item", key: "f", name: `${name}.pdf`, detail: "Touring / Plans", label: "restricted" },
  share: { kind: "share", key: "l", name: "Named link", detail: "", people: ["a@quay.example", "b@quay.example"] },
  whom: null,
  remarks: ["late"],
  ...more,
});

test("acts as CSV are read back by another package, with what a spreadsheet would run made plain", () => {
  const names = ["Zoë", '=HYPERLINK("x")', "a, b", 'said "so"', "two\nlines", "-1+1", "@sum"];
  const rows: string[][] = parse(actLines(names.map((name) => act(name))), { record_delimiter: "\r\n" });
  expect(rows.map((row) => row[3])).toEqual([
    "Zoë",
    '\'=HYPERLINK("x")',
    "a, b",
    'said "so"',
    "two\nlines",
    "'-1+1",
    "'@sum",
  ]);
  expect(rows[0]).toEqual([
    "2026-10-05T08:00:00Z",
    "downloaded",
    "st",
    "Zoë",
    "a@quay.example",
    "Zoë.pdf",
    "Touring / Plans",
    "restricted",
    "l",
    "Named link",
    "a@quay.example, b@quay.example",
    "",
    "A copy is outside, and can't be taken back. It came after acts that were later",
  ]);
});

test("an act that speaks of nothing known is a row of empty cells, and no act is no row", () => {
  const bare = act("", { who: null, item: null, share: null, verb: "waved-at", remarks: [] });
  expect(parse(actLines([bare]))).toEqual([["2026-10-05T08:00:00Z", "waved-at", "st", ...Array<string>(10).fill("")]]);
  expect(actLines([])).toBe("");
});
