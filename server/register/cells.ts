import type { RegisterRow } from "@/core/register/row";
import { RULE_WORDS } from "@/core/rules/ruleWords";
import { LATCHES } from "@/core/rules/latches";
import { NEVER, rfc3339 } from "@/core/time/instant";

type Cell = (row: RegisterRow) => string;

/**
 * Text that a spreadsheet would run as a formula gets an apostrophe before it, which makes it plain text there
 * (OWASP, CSV Injection: cells that begin with = + - @, a tab or a carriage return; here also where white space
 * comes first, and for the full-width forms that some programs take for them).
 */
export function safeCell(text: string): string {
  return /^\s*[=+\-@＝＋－＠]|^[\t\r]/.test(text) ? `'${text}` : text;
}

/** What of a row goes into a table, under the heads of the columns. */
const COLUMNS: [head: string, cell: Cell][] = [
  ["Share", (row) => row.id],
  ["Store", (row) => row.storeName],
  ["Item", (row) => row.itemName],
  ["Place", (row) => row.place.join(" / ")],
  ["Kind", (row) => row.itemKind],
  ["Reach", (row) => row.way],
  ["For whom", (row) => row.audience],
  ["Organisations", (row) => row.organisations.join(", ")],
  ["May", (row) => row.role],
  ["Label", (row) => row.label],
  ["State", (row) => row.state],
  ["Outside", (row) => (row.outside ? "yes" : "no")],
  ["Risk", (row) => row.risk ?? ""],
  ...LATCHES.map((latch): (typeof COLUMNS)[number] => [`Latch: ${latch}`, (row) => row.latches[latch]]),
  ["Ends", (row) => (row.expires === NEVER ? "" : rfc3339(row.expires))],
  ["Last used", (row) => (row.lastUsed === null ? "" : rfc3339(row.lastUsed))],
  ["Made", (row) => rfc3339(row.made)],
  ["Made by", (row) => row.maker],
  ["Department", (row) => row.department ?? ""],
  ["Findings", (row) => row.rules.map((rule) => RULE_WORDS[rule].title).join("; ")],
  ["Waived", (row) => row.waived.map((rule) => RULE_WORDS[rule].title).join("; ")],
];

/** Columns of words that others chose; those of all others are ours, and no spreadsheet runs them. */
const WORDS_OF_OTHERS = new Set([
  "Share",
  "Store",
  "Item",
  "Place",
  "For whom",
  "Organisations",
  "Made by",
  "Department",
]);

export const HEADS = COLUMNS.map(([head]) => head);
const CELLS = COLUMNS.map(([, cell]) => cell);
const SAFE_CELLS = COLUMNS.map(([head, cell]): Cell =>
  WORDS_OF_OTHERS.has(head) ? (row) => safeCell(cell(row)) : cell,
);

export function cellsOf(row: RegisterRow): string[] {
  return CELLS.map((cell) => cell(row));
}

/** The same, safe to open in a spreadsheet that guesses what a cell is. */
export function safeCellsOf(row: RegisterRow): string[] {
  return SAFE_CELLS.map((cell) => cell(row));
}
