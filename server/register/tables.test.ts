import { parse } from "csv-parse/sync";
import { readSheet } from "read-excel-file/node";
import { buffer } from "node:stream/consumers";
import { estateOf, file, grant, item, link, person, T } from "@/tests/records";
import { listedRows } from "@/tests/registerModel";
import { cellsOf, csvLineOf, HEADS, safeCell } from "@/core/register/cells";
import { csvOf, xlsxOf } from "./tables";

/** Names that a careless export would run, break a row with, or lose. */
const NAMES = [
  "=1+1",
  "+31 20 555",
  "-cmd|' /C calc'!A0",
  "@SUM(A1)",
  "\t=1",
  "\r=1",
  "  =1",
  "\n=1",
  "＝1",
  "plain, with a comma",
  'a "quoted" word',
  "two\nlines",
  "a lone\rreturn",
  "Zoë's 2× forte.pdf",
  "",
  " edges ",
];
const estate = estateOf(
  person("maker", "maker@home.example", { name: "=HYPERLINK(1)" }),
  item("a", null, { name: "Tour" }),
  NAMES.map((name, n) => file(`f${n}`, "a", { name })),
  NAMES.map((_, n) => link(`l${String(n).padStart(2, "0")}`, `f${n}`, { createdBy: "maker" })),
  grant("g", "a", "out", { lastUsedAt: null }),
);
const rows = listedRows(estate, T);
async function* pieces() {
  yield rows.slice(0, 3);
  yield rows.slice(3);
}
async function* csvPieces() {
  for await (const piece of pieces()) yield piece.map(csvLineOf).join("");
}
const wanted = [HEADS, ...rows.map((row) => cellsOf(row).map(safeCell))];

test("a cell that a spreadsheet would run is made plain text, and no other is touched", () => {
  expect(NAMES.map((name) => safeCell(name) !== name)).toEqual(NAMES.map((_, n) => n < 9));
  expect(["5", "a=b", "a-b", "x@y.example"].map(safeCell)).toEqual(["5", "a=b", "a-b", "x@y.example"]);
});

test("CSV is read back by another package as it was written", async () => {
  const bytes = await buffer(csvOf(csvPieces()));
  expect([...bytes.subarray(0, 3)]).toEqual([0xef, 0xbb, 0xbf]);
  const text = bytes.toString("utf8").slice(1);
  expect(text.endsWith("\r\n")).toBe(true);
  expect(parse(bytes, { bom: true, record_delimiter: "\r\n" })).toEqual(wanted);
});

test("XLSX is read back by another package, every cell as text", async () => {
  const sheet = await readSheet(await buffer(xlsxOf(pieces())));
  const cells = rows.map((row) => cellsOf(row));
  expect(sheet[0]).toEqual(HEADS);
  // A sheet's lines end with a line feed alone, and an empty cell is none.
  const plain = (text: string | null) => (text ?? "").replace(/\r\n?/g, "\n").trim();
  expect(sheet.slice(1).map((row) => row.map((cell) => plain(cell as string)))).toEqual(
    cells.map((row) => row.map(plain)),
  );
});
