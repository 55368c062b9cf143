import type { RegisterRow } from "@/core/register/row";
import { RULES, type RuleId } from "@/core/rules/list";
import { LATCHES } from "@/core/changes/latches";
import { NEVER, rfc3339 } from "@/core/time/instant";
import { csvCell, csvLine } from "../text/csv";

type Cell = (row: RegisterRow) => string;

/**
 * Text that a spreadsheet would run as a formula gets an apostrophe before it, which makes it plain text there
 * (OWASP, CSV Injection: cells that begin with = + - @, a tab or a carriage return; here also where white space
 * comes first, and for the full-width forms that some programs take for them).
 */
export function safeCell(text: string): string {
  return /^\s*[=+\-@＝＋－＠]|^[\t\r]/.test(text) ? `'${text}` : text;
}

/** By the list itself: shares that break the same rules have the same list. */
const titles = new WeakMap<readonly RuleId[], string>();

function titlesOf(rules: readonly RuleId[]): string {
  let text = titles.get(rules);
  if (text === undefined) titles.set(rules, (text = rules.map((rule) => RULES[rule].title).join("; ")));
  return text;
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
  ["Last used", (row) => (!row.isUseKnown ? "unknown" : row.lastUsed === null ? "" : rfc3339(row.lastUsed))],
  ["Made", (row) => rfc3339(row.made)],
  ["Made by", (row) => row.maker],
  ["Department", (row) => row.department ?? ""],
  ["Findings", (row) => titlesOf(row.rules)],
  ["Waived", (row) => titlesOf(row.waived)],
];

export const HEADS = COLUMNS.map(([head]) => head);
const CELLS = COLUMNS.map(([, cell]) => cell);

export function cellsOf(row: RegisterRow): string[] {
  return CELLS.map((cell) => cell(row));
}

/** Columns of words that others chose, each of its own kind in nearly every row, or the same in many. */
const OF_OTHERS = new Set(["Share", "Item", "Place", "Organisations"]);
const OF_OTHERS_OFTEN = new Set(["Store", "For whom", "Made by", "Department"]);
/** What rows of the same rules say of them. */
const OF_RULES = new Set(["Findings", "Waived"]);

/** Those of all others are plain words of ours: no spreadsheet runs them, and they need no quotes. */
const CSV_CELLS = COLUMNS.map(([head, cell]): Cell => {
  if (OF_OTHERS.has(head)) return (row) => safeCsvCell(cell(row));
  if (OF_OTHERS_OFTEN.has(head) || OF_RULES.has(head)) return keeping(cell);
  return cell;
});

function safeCsvCell(text: string): string {
  return csvCell(safeCell(text));
}

/** Writes each text once: it comes again in many rows. */
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
