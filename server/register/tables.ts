import { PassThrough, Readable } from "node:stream";
import type { RegisterRow } from "@/core/register/columns";
import { cellsOf, HEADS } from "@/core/register/cells";
import { csvLines } from "@/core/text/csv";

/** @param pieces lines of CSV, as `csvLines` writes them. A mark at the beginning says that it is UTF-8. */
export function csvOf(pieces: AsyncIterable<string>): Readable {
  return Readable.from(withHeads(pieces));
}

async function* withHeads(pieces: AsyncIterable<string>): AsyncGenerator<string> {
  yield "\ufeff" + csvLines([HEADS]);
  yield* pieces;
}

/** The most rows that a sheet can have. */
export const MOST_SHEET_ROWS = 2 ** 20;

/** Cells are typed as text, so nothing in them is run. */
export function xlsxOf(pieces: AsyncIterable<RegisterRow[]>): Readable {
  const stream = new PassThrough();
  const write = async () => {
    // A large package that few need, so it is loaded when it is first used.
    const { default: ExcelJS } = await import("exceljs");
    const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
    const sheet = book.addWorksheet("Shares", { views: [{ state: "frozen", ySplit: 1 }] });
    sheet.addRow(HEADS).commit();
    for await (const rows of pieces) for (const row of rows) sheet.addRow(cellsOf(row)).commit();
    sheet.commit();
    await book.commit();
  };
  write().catch((error: Error) => stream.destroy(error));
  return stream;
}
