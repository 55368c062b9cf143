import { fold, standAmong, wordsIn } from "../text/text";
import type { Seconds } from "../time/instant";
import { type Fields, NONE } from "./fields";
import { parseQueryOf } from "./parse";
import type { Comparison, MomentTest, Names, QueryProblem, Term, Value } from "./query";

/** What a list's rows hold in each field, and the texts searched for words. */
export interface Asks<R> {
  words: (row: R) => readonly string[];
  choice: Record<string, (row: R) => readonly string[]>;
  moment: Record<string, (row: R) => Seconds | null>;
  count: Record<string, (row: R) => number>;
}

/** The fields by which a list's rows are searched. */
export interface Askable<R> {
  fields: Fields;
  asks: Asks<R>;
}

/** What a list is asked for: a query, and which page of what it finds. */
export interface ListAsked {
  query: string;
  from: number;
  count: number;
}

/** A page of a list. */
export interface ListPage<R> {
  /** How many rows there are, and how many of them were asked for. */
  total: number;
  found: number;
  page: R[];
  /** What of the query wasn't understood: it is left out. */
  problems: QueryProblem[];
}

/** A page of those rows that a query finds at t, in the order in which they stand. */
export function listPage<R>(
  rows: readonly R[],
  { query, from, count }: ListAsked,
  askable: Askable<R>,
  t: Seconds,
): ListPage<R> {
  const { terms, problems } = parseQueryOf(query, askable.fields);
  const found = listed(rows, terms, askable, t);
  return { total: rows.length, found: found.length, page: found.slice(from, from + count), problems };
}

/** The rows of a list, held in memory, that meet all terms of a query at t; in the order in which they stand. */
export function listed<R>(
  rows: readonly R[],
  terms: readonly Term<Names>[],
  { fields, asks }: Askable<R>,
  t: Seconds,
): R[] {
  const tests = terms.map((term) => ({ test: testOf(term, fields, asks, t), negated: term.negated }));
  return rows.filter((row) => tests.every(({ test, negated }) => test(row) !== negated));
}

function testOf<R>(term: Term<Names>, fields: Fields, asks: Asks<R>, t: Seconds): (row: R) => boolean {
  switch (term.kind) {
    case "words": {
      const phrases = term.values.map(wordsIn);
      return (row) => {
        const texts = asks.words(row).map(wordsIn);
        return phrases.some((phrase) => texts.some((text) => standAmong(phrase, text)));
      };
    }
    case "choice": {
      const valuesOf = asks.choice[term.field];
      return (row) => {
        const has = valuesOf(row);
        return term.values.some((value) => (isNone(value) ? has.length === 0 : has.some((one) => isMeant(one, value))));
      };
    }
    case "count":
      return (row) => compare(asks.count[term.field](row), term.comparison, term.count);
    case "moment": {
      const field = fields[term.field];
      const isAhead = field.kind === "moment" && field.direction === "ahead";
      return (row) => meetsMoment(asks.moment[term.field](row), term.test, isAhead, t);
    }
  }
}

function isNone({ text }: Value): boolean {
  return text.toLowerCase() === NONE;
}

function isMeant(has: string, { text, exact }: Value): boolean {
  return exact ? fold(has) === fold(text) : fold(has).includes(fold(text));
}

/** What never happened matches no age and no day; what will never happen comes after everything. */
function meetsMoment(at: Seconds | null, test: MomentTest, isAhead: boolean, t: Seconds): boolean {
  if (test.kind === "never" || test.kind === "unknown") return at === null;
  if (at === null) return isAhead && test.comparison.startsWith(">");
  if (test.kind === "age") return compare(isAhead ? at - t : t - at, test.comparison, test.seconds);
  const { comparison, from, to } = test;
  if (comparison === "=") return at >= from && at < to;
  return compare(at, comparison, comparison === "<=" || comparison === ">" ? to - 1 : from);
}

function compare(value: number, comparison: Comparison, than: number): boolean {
  return { "<": value < than, "<=": value <= than, ">": value > than, ">=": value >= than, "=": value === than }[
    comparison
  ];
}
