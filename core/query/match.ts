import { type RegisterRow, riskRank } from "../register/row";
import type { Seconds } from "../time/instant";
import { type Field, FIELDS } from "./fields";
import type { Query, Term } from "./parse";

/** Whether a row meets every condition of a query at t. */
export function matches(row: RegisterRow, query: Query, t: Seconds): boolean {
  return query.terms.every((term) => meets(row, term, t) !== term.negated);
}

function meets(row: RegisterRow, term: Term, t: Seconds): boolean {
  if (term.kind === "text") return searchText(row).includes(term.text);
  const field: Field = FIELDS[term.field];
  if (term.kind === "words" && field.kind === "words") {
    const own = field.of(row).map((one) => one.toLowerCase());
    return term.values.some((value) => own.some((one) => (term.exact ? one === value : one.includes(value))));
  }
  if (term.kind !== "age" || field.kind !== "age") return false;
  const at = field.of(row);
  if (at === null || term.seconds === null) return at === null && (term.seconds === null || isEndless(field, term));
  const distance = field.direction === "past" ? t - at : at - t;
  return term.comparison === "<" ? distance < term.seconds : distance > term.seconds;
}

/** What never ends, ends later than any number of days; what was never used was not used any time ago. */
function isEndless(field: Field, term: Term): boolean {
  return field.kind === "age" && field.direction === "ahead" && term.kind === "age" && term.comparison === ">";
}

function searchText(row: RegisterRow): string {
  return [row.itemName, ...row.place, row.audience, ...row.addresses, row.maker, row.id].join("\n").toLowerCase();
}

export const SORTS = ["risk", "item", "for", "ends", "used", "made"] as const;
export type Sort = (typeof SORTS)[number];

type Order = (a: RegisterRow, b: RegisterRow) => number;
const byText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** The order a reader expects first: the riskiest, the soonest to end, the longest unused. */
const ORDERS: Record<Sort, Order> = {
  risk: (a, b) => riskRank(b.risk) - riskRank(a.risk) || b.rules.length - a.rules.length,
  item: (a, b) => byText(a.itemName.toLowerCase(), b.itemName.toLowerCase()),
  for: (a, b) => byText(a.audience, b.audience),
  ends: (a, b) => a.expires - b.expires,
  used: (a, b) => (a.lastUsed ?? 0) - (b.lastUsed ?? 0),
  made: (a, b) => b.made - a.made,
};

/** Rows in an order; equal ones by id, so that the order is always the same. */
export function sortRows(rows: RegisterRow[], sort: Sort, reversed: boolean): RegisterRow[] {
  const sign = reversed ? -1 : 1;
  return [...rows].sort((a, b) => sign * ORDERS[sort](a, b) || byText(a.id, b.id));
}
