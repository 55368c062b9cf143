import type { Encoding, Rows, Separator } from "@/core/imports/file";
import { type FileReading, firstRowsOfFile, guessReading, isWorkbook, sheetsOf } from "./rows";

/** What a report looks like before it is mapped. */
export interface ReportLook {
  isWorkbook: boolean;
  encoding: Encoding;
  separator: Separator;
  /** Of a workbook. */
  sheets: string[];
  sheet: string | null;
  /** Its first rows, for whoever maps its columns. */
  rows: Rows;
  /** How many rows it has, headings and empty ones too. */
  count: number;
}

/** How many rows are shown, and how much of a cell. */
export const ROWS_SHOWN = 1_000;
const MOST_OF_A_CELL = 500;

/** Reads a report through once. @param said what somebody has said of how to read it @throws {Unreadable} */
export async function lookAt(path: string, said: Partial<FileReading>): Promise<ReportLook> {
  const sheets = isWorkbook(path) ? await sheetsOf(path) : [];
  const reading = guessReading(path, { ...said, sheet: said.sheet ?? sheets[0] ?? null });
  const { rows, count } = await firstRowsOfFile(path, reading, ROWS_SHOWN);
  const shown = rows.map((row) => row.map((cell) => cell.slice(0, MOST_OF_A_CELL)));
  return { isWorkbook: sheets.length > 0, sheets, ...reading, rows: shown, count };
}
