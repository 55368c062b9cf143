import { stringify } from "csv-stringify/sync";
import ExcelJS from "exceljs";
import { PassThrough, Readable } from "node:stream";
import type { RegisterRow } from "@/core/register/row";
import { cellsOf, HEADS } from "./exportRows";

/**
 * RFC 4180: lines end with CR LF, and a field with a quote, a comma or a line end in it stands in quotes. A mark at the
 * beginning says that it is UTF-8.
 */
export function csvOf(pieces: AsyncIterable<RegisterRow[]>): Readable {
  return Readable.from(csvPieces(pieces));
}

async function* csvPieces(pieces: AsyncIterable<RegisterRow[]>): AsyncGenerator<string> {
  yield "\ufeff" + csvLines([HEADS]);
  for await (const rows of pieces) yield csvLines(rows.map((row) => cellsOf(row).map(safeCell)));
}

function csvLines(lines: string[][]): string {
  // Without the last the package leaves a lone line feed unquoted, and a file's name could forge a row.
  return stringify(lines, { record_delimiter: "windows", quoted_match: /[\r\n]/ });
}

/**
 * Text that a spreadsheet would run as a formula gets an apostrophe before it, which makes it plain text there
 * (OWASP, CSV Injection: cells that begin with = + - @, a tab or a carriage return; here also where white space
 * comes first, and for the full-width forms that some programs take for them).
 */
export function safeCell(text: string): string {
  return /^\s*[=+\-@＝＋－＠]|^[\t\r]/.test(text) ? `'${text}` : text;
}

/** The most rows that a sheet can have. */
export const MOST_SHEET_ROWS = 2 ** 20;

/** Cells are typed as text, so nothing in them is run. */
export function xlsxOf(pieces: AsyncIterable<RegisterRow[]>): Readable {
  const stream = new PassThrough();
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
  const write = async () => {
    const sheet = book.addWorksheet("Shares", { views: [{ state: "frozen", ySplit: 1 }] });
    sheet.addRow(HEADS).commit();
    for await (const rows of pieces) for (const row of rows) sheet.addRow(cellsOf(row)).commit();
    sheet.commit();
    await book.commit();
  };
  write().catch((error: Error) => stream.destroy(error));
  return stream;
}
