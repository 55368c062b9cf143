import { DAY } from "../time/instant";
import { SPAN_DAYS } from "./facets";
import { type ChoiceName, listedValues, type MomentName, NONE } from "./fields";
import type { Term, Value } from "./query";

/** A value of a field as a query asks for just that one. */
export function justThis(text: string): Value {
  return { text, exact: true };
}

/** What a query asks of a field to find what has no value there. */
export function noValue(field: ChoiceName): Value {
  return { text: NONE, exact: listedValues(field) !== undefined };
}

/** The values that a query asks for in a field. */
export function chosen(terms: readonly Term[], field: ChoiceName): readonly Value[] {
  return terms.flatMap((term) => (isChoiceOf(term, field) ? term.values : []));
}

export function isChosen(terms: readonly Term[], field: ChoiceName, value: Value): boolean {
  return chosen(terms, field).some((one) => isSame(one, value));
}

/** The query with a value added, or taken out. */
export function withValue(terms: readonly Term[], field: ChoiceName, value: Value): Term[] {
  const before = chosen(terms, field);
  const others = before.filter((one) => !isSame(one, value));
  const values = others.length < before.length ? others : [...before, value];
  const rest = terms.filter((term) => !isChoiceOf(term, field));
  return values.length === 0 ? rest : [...rest, { kind: "choice", field, values, negated: false }];
}

/** The query that finds what another one misses because the last use isn't known. */
export function withUseUnknown(terms: readonly Term[]): Term[] {
  const rest = terms.filter((term) => term.kind !== "moment" || term.field !== "used");
  return [...rest, { kind: "moment", field: "used", test: { kind: "unknown" }, negated: false }];
}

/** A span of ages in days: at least `from`, less than `to`; null is without a bound. */
export interface Span {
  from: number | null;
  to: number | null;
}

/** The query with a field limited to a span of ages, or not limited. */
export function withSpan(terms: readonly Term[], field: MomentName, span: Span | null): Term[] {
  const rest = terms.filter((term) => term.kind !== "moment" || term.field !== field);
  if (span === null) return rest;
  const bound = (comparison: ">=" | "<", days: number): Term => {
    return { kind: "moment", field, test: { kind: "age", comparison, seconds: days * DAY }, negated: false };
  };
  if (span.from !== null) rest.push(bound(">=", span.from));
  if (span.to !== null) rest.push(bound("<", span.to));
  // What never ends, ends later than any day; but it is counted by itself, and not in the span.
  else if (field === "ends") rest.push({ kind: "moment", field, test: { kind: "never" }, negated: true });
  return rest;
}

/** The span of ages that a query asks for in a field, if it is one. */
export function spanOf(terms: readonly Term[], field: MomentName): Span | null {
  const span: Span = { from: null, to: null };
  for (const term of terms) {
    if (term.kind !== "moment" || term.field !== field || term.negated || term.test.kind !== "age") continue;
    const { comparison, seconds } = term.test;
    if (comparison.startsWith(">")) span.from = seconds / DAY;
    else span.to = seconds / DAY;
  }
  return span.from === null && span.to === null ? null : span;
}

/** The span of ages from one bar of a histogram to another. */
export function spanOfBars(first: number, last: number): Span {
  return { from: first === 0 ? null : SPAN_DAYS[first - 1], to: SPAN_DAYS[last] ?? null };
}

function isChoiceOf(term: Term, field: ChoiceName): term is Term & { kind: "choice" } {
  return term.kind === "choice" && term.field === field && !term.negated;
}

function isSame(a: Value, b: Value): boolean {
  return a.text === b.text && a.exact === b.exact;
}
