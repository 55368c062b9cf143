import { isMailAddress } from "../estate/mailAddress";
import { readDate } from "./dates";
import type { Rows } from "./file";

/** The row on which the headings begin, counted from 1, and how many rows they take. */
export interface Headings {
  headingRow: number;
  headingRows: number;
}

/** Titles, dates and empty rows may stand above the headings; not more than this. */
const ROWS_LOOKED_AT = 30;

/** Where the headings are: the first row of texts, nearly as wide as the table, with no value in it. */
export function guessHeadings(rows: Rows): Headings {
  const top = rows.slice(0, ROWS_LOOKED_AT);
  const width = Math.max(...top.map(filled), 1);
  const isWide = (row: string[] | undefined) => row !== undefined && filled(row) >= Math.max(2, width * 0.6);
  const at = top.findIndex((row) => isWide(row) && row.every(isTitle));
  if (at < 0) return { headingRow: 1, headingRows: 1 };
  // Headings that stand over several columns are on a row of their own above, with gaps.
  const above = top[at - 1];
  if (above && filled(above) >= 2 && filled(above) < filled(top[at]) && above.every(isTitle))
    return { headingRow: at, headingRows: 2 };
  const below = top[at + 1];
  const isGrouping =
    below && filled(top[at]) < filled(below) && isWide(below) && below.every(isTitle) && at + 2 < rows.length;
  return { headingRow: at + 1, headingRows: isGrouping && new Set(below).size === below.length ? 2 : 1 };
}

function filled(row: string[]): number {
  return row.filter((cell) => cell.trim() !== "").length;
}

/** Whether a cell could be a heading: it isn't a number, a date, an address or a path. */
function isTitle(cell: string): boolean {
  const text = cell.trim();
  if (text === "") return true;
  if (text.length > 80 || /^[\\/]|^\d|:\/\//.test(text) || isMailAddress(text)) return false;
  const date = readDate(text, "day first", "UTC");
  return date === null || "problem" in date;
}

/** A different name for each column: a heading over several columns is put before that of each. */
export function columnsOf(rows: Rows, { headingRow, headingRows }: Headings): string[] {
  const lines = rows.slice(headingRow - 1, headingRow - 1 + headingRows);
  const width = Math.max(...rows.slice(headingRow - 1, headingRow + ROWS_LOOKED_AT).map((row) => row.length), 0);
  const names: string[] = [];
  const seen = new Map<string, number>();
  let over = "";
  for (let column = 0; column < width; column++) {
    const cells = lines.map((line) => (line[column] ?? "").trim().replace(/\s+/g, " "));
    if (headingRows === 2 && cells[0] !== "") over = cells[0];
    const parts = headingRows === 2 ? [cells[1] === "" ? cells[0] : over, cells[1] ?? ""] : [cells[0] ?? ""];
    const name = parts.filter((part) => part !== "").join(": ") || `Column ${column + 1}`;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    names.push(times === 1 ? name : `${name} (${times})`);
  }
  return names;
}
