import { createHash, type Hash } from "node:crypto";
import { closeSync, openSync, readSync } from "node:fs";
import {
  type Encoding,
  firstRowsOf,
  guessEncoding,
  guessSeparator,
  type Rows,
  rowsOf,
  type Separator,
  Unreadable,
} from "@/core/imports/file";

/** How a report's file is read. */
export interface FileReading {
  encoding: Encoding;
  separator: Separator;
  sheet: string | null;
}

const PIECE = 1 << 20;
/** A workbook is a ZIP archive, which begins so. */
const ZIP = Buffer.from("PK\u0003\u0004");
/** How many rows of a workbook are handed on at a time. */
const ROWS_AT_ONCE = 1_000;

/** A file in pieces, each valid only until the next is asked for. @param hash takes in each */
function* piecesOf(path: string, hash?: Hash): Generator<Uint8Array> {
  const file = openSync(path, "r");
  const piece = new Uint8Array(PIECE);
  try {
    for (;;) {
      const length = readSync(file, piece, 0, PIECE, null);
      if (length === 0) return;
      hash?.update(piece.subarray(0, length));
      yield piece.subarray(0, length);
    }
  } finally {
    closeSync(file);
  }
}

export function isWorkbook(path: string): boolean {
  const [start = new Uint8Array(0)] = piecesOf(path);
  return ZIP.equals(start.subarray(0, ZIP.length));
}

/** How a file seems to be written. What somebody has said already holds. */
export function guessReading(path: string, said: Partial<FileReading> = {}): FileReading {
  const [start = new Uint8Array(0)] = piecesOf(path);
  const encoding = said.encoding ?? guessEncoding(start, start.length < PIECE);
  const text = new TextDecoder(encoding).decode(start.subarray(0, PIECE / 4));
  return { encoding, separator: said.separator ?? guessSeparator(text), sheet: said.sheet ?? null };
}

/** A report's rows, some at a time, whether it is a workbook or a file of text. @throws {Unreadable} */
export async function* rowsOfFile(path: string, reading: FileReading): AsyncGenerator<Rows> {
  if (!isWorkbook(path)) return yield* rowsOf(piecesOf(path), reading);
  yield* rowsOfSheet(path, reading.sheet);
}

/** The first rows of a report, at most so many, and how many it has. @throws {Unreadable} */
export async function firstRowsOfFile(
  path: string,
  reading: FileReading,
  most: number,
): Promise<{ rows: Rows; count: number }> {
  if (!isWorkbook(path)) return firstRowsOf(piecesOf(path), reading, most);
  const rows: Rows = [];
  let count = 0;
  for await (const some of rowsOfSheet(path, reading.sheet)) {
    count += some.length;
    rows.push(...some.slice(0, most - rows.length));
  }
  return { rows, count };
}

export function digestOfFile(path: string): string {
  const hash = createHash("sha256");
  for (const _ of piecesOf(path, hash));
  return hash.digest("hex");
}

async function workbook(path: string): Promise<AsyncIterable<Sheet>> {
  const { default: Excel } = await import("exceljs");
  return new Excel.stream.xlsx.WorkbookReader(path, {
    ...{ worksheets: "emit", sharedStrings: "cache", styles: "cache", hyperlinks: "ignore", entries: "emit" },
  }) as unknown as AsyncIterable<Sheet>;
}

/** The names of a workbook's sheets, in their order. @throws {Unreadable} where it is none */
export async function sheetsOf(path: string): Promise<string[]> {
  const names: string[] = [];
  for await (const sheet of readable(await workbook(path))) names.push(nameOf(sheet, names.length));
  return names;
}

const NO_SHEET = "The file looks like a workbook, and no sheet of it can be read. Save it again, or export it as CSV.";

interface Sheet extends AsyncIterable<{ number: number; values: unknown }> {
  name?: string;
}

function nameOf({ name }: Sheet, before: number): string {
  return name ?? `Sheet ${before + 1}`;
}

/** The parts of a workbook: its sheets, or the rows of one. @throws {Unreadable} where they can't be read */
async function* readable<Part>(parts: AsyncIterable<Part>): AsyncGenerator<Part> {
  try {
    for await (const part of parts) yield part;
  } catch {
    // Whatever is wrong with the archive or its content, the advice is the same.
    throw new Unreadable(NO_SHEET);
  }
}

async function* rowsOfSheet(path: string, wanted: string | null): AsyncGenerator<Rows> {
  let before = 0;
  for await (const sheet of readable(await workbook(path))) {
    if (wanted !== null && nameOf(sheet, before++) !== wanted) continue;
    yield* rowsIn(sheet);
    return;
  }
  throw new Unreadable(wanted === null ? NO_SHEET : `The workbook has no sheet called ${wanted}.`);
}

async function* rowsIn(sheet: Sheet): AsyncGenerator<Rows> {
  let rows: Rows = [];
  let next = 1;
  for await (const { number, values } of readable(sheet)) {
    // A sheet leaves its empty rows out; they are counted all the same.
    for (; next < number; next++) rows.push([]);
    next = number + 1;
    rows.push(Array.from((values as unknown[]).slice(1), textOf));
    if (rows.length >= ROWS_AT_ONCE) {
      yield rows;
      rows = [];
    }
  }
  if (rows.length > 0) yield rows;
}

/** What a cell shows, as a file of text would have it; a date without a time of day as a day. */
function textOf(value: unknown): string {
  if (value === null || value === undefined) return "";
  if (value instanceof Date)
    return value
      .toISOString()
      .replace("T00:00:00.000Z", "")
      .replace(/\.000Z$/, "");
  if (typeof value !== "object") return String(value);
  const { text, richText, result } = value as { text?: unknown; richText?: { text: string }[]; result?: unknown };
  if (richText) return richText.map((part) => part.text).join("");
  return textOf(text ?? result);
}
