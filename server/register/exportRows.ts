import type { Order } from "@/core/query/order";
import type { RegisterRow } from "@/core/register/row";
import { RULES } from "@/core/rules/catalogue";
import { LATCHES } from "@/core/rules/latches";
import { NEVER, rfc3339, type Seconds } from "@/core/time/instant";
import { engine } from "../engine/client";

/** What of a row goes into a table, under the heads of the columns. */
const COLUMNS: [head: string, cell: (row: RegisterRow) => string][] = [
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
  ["Findings", (row) => row.rules.map((rule) => RULES[rule].title).join("; ")],
  ["Waived", (row) => row.waived.map((rule) => RULES[rule].title).join("; ")],
];

export const HEADS = COLUMNS.map(([head]) => head);

export function cellsOf(row: RegisterRow): string[] {
  return COLUMNS.map(([, cell]) => cell(row));
}

const PIECE = 2_000;

/** The rows that a query finds, piece by piece, so that however many there are, few are in memory. */
export async function* rowsOf(query: string, order: Order, past: Seconds | undefined): AsyncGenerator<RegisterRow[]> {
  // Each piece goes on behind the last: what changes meanwhile passes nothing over and tells nothing twice.
  for (let behind: string | undefined; ;) {
    const rows = await engine().ask("some", { query, order, behind, count: PIECE }, past);
    if (rows.length > 0) yield rows;
    if (rows.length < PIECE) return;
    behind = rows[PIECE - 1].id;
  }
}
