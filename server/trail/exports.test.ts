import { parse } from "csv-parse/sync";
import { T } from "@/tests/records";
import type { TrailEvent } from "@/core/trail/event";
import { eventLines } from "./exports";

const event = (name: string, more: Partial<TrailEvent> = {}): TrailEvent => ({
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

test("events as CSV are read back by another package, with what a spreadsheet would run made plain", () => {
  const names = ["Zoë", '=HYPERLINK("x")', "a, b", 'said "so"', "two\nlines", "-1+1", "@sum"];
  const rows: string[][] = parse(eventLines(names.map((name) => event(name))), { record_delimiter: "\r\n" });
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
    "A copy is outside and can’t be recalled. It arrived after later events",
  ]);
});

test("an event that speaks of nothing known is a row of empty cells, and no event is no row", () => {
  const bare = event("", { who: null, item: null, share: null, verb: "waved-at", remarks: [] });
  expect(parse(eventLines([bare]))).toEqual([
    ["2026-10-05T08:00:00Z", "waved-at", "st", ...Array<string>(10).fill("")],
  ]);
  expect(eventLines([])).toBe("");
});
