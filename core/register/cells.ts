import { csvCell, csvLine } from "../text/csv";
import { withoutIsolates } from "../text/shown";
import { COLUMN_NAMES, columnOf, type RegisterRow } from "./columns";

type Cell = (row: RegisterRow) => string;

/**
 * Text that a spreadsheet would run as a formula gets an apostrophe before it, which makes it plain text there
 * (OWASP, CSV Injection: cells that begin with = + - @, a tab or a carriage return; here also where white space
 * comes first, and for the full-width forms that some programs take for them).
 */
export function safeCell(text: string): string {
  // For most cells one check is enough: a table has a million.
  if (text.length <= MOST_IN_A_CELL && !MAY_RUN.test(text)) return text;
  const parted = withoutIsolates(text).replace(PARTED, "$1'$2");
  const plain = BEGINS.test(parted) ? `'${parted}` : parted;
  return plain.length <= MOST_IN_A_CELL ? plain : cutCell(plain);
}

const MAY_RUN = /^\s*[=+\-@＝＋－＠]|[;\t|\r\n\u2068\u2069]/;
const BEGINS = /^\s*[=+\-@＝＋－＠]|^[\t\r]/;
/** The same after a character that separates cells under other list-separator settings, where the quotes of a cell may be ignored. */
const PARTED = /([;\t|\r\n]["\s]*)([=+\-@＝＋－＠])/g;
/** No cell of a spreadsheet holds more than this (ECMA-376 sets no limit; common programs take 32,767 characters). */
const MOST_IN_A_CELL = 32_767;
const ROOM_FOR_WORDS = 100;

function cutCell(text: string): string {
  const kept = text.slice(0, MOST_IN_A_CELL - ROOM_FOR_WORDS).toWellFormed();
  return `${kept}… (${(text.length - kept.length).toLocaleString("en-GB")} more characters didn’t fit in the cell)`;
}

/** What goes into a table from a row, under the column headings. */
const EXPORTED = COLUMN_NAMES.flatMap((name) =>
  (columnOf(name).exported ?? []).map(({ head, cell, from }) => ({
    head,
    from,
    cell: (row: RegisterRow) => cell(row[name], row),
  })),
);

export const HEADS = EXPORTED.map(({ head }) => head);
const CELLS = EXPORTED.map(({ cell }) => cell);

export function cellsOf(row: RegisterRow): string[] {
  return CELLS.map((cell) => cell(row));
}

/** Our own plain words: no spreadsheet runs them, and they need no quotes. */
const CSV_CELLS = EXPORTED.map(({ cell, from }): Cell => {
  if (from === "others") return (row) => safeCsvCell(cell(row));
  return from === "us" ? cell : keeping(cell);
});

function safeCsvCell(text: string): string {
  return csvCell(safeCell(text));
}

/** Writes each text once and remembers it, since the same texts occur in many rows. */
function keeping(cell: Cell): Cell {
  const kept = new Map<string, string>();
  return (row) => {
    const text = cell(row);
    let written = kept.get(text);
    if (written === undefined) {
      if (kept.size === MOST_KEPT) kept.clear();
      kept.set(text, (written = safeCsvCell(text)));
    }
    return written;
  };
}
const MOST_KEPT = 10_000;

/** A row as a line of CSV, safe to open in a spreadsheet that guesses what a cell is. */
export function csvLineOf(row: RegisterRow): string {
  return csvLine(CSV_CELLS.map((cell) => cell(row)));
}
