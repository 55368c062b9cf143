import { wordsIn } from "../text/text";
import { DAY, FIRST_INSTANT, HOUR, rfc3339, seconds } from "../time/instant";
import { type Field, type Fields, FIELDS, NONE } from "./fields";
import { nearest } from "./nearest";
import {
  type Comparison,
  COMPARISONS,
  type Condition,
  type MomentTest,
  type Names,
  type Query,
  type QueryProblem,
} from "./query";

/*
 * The grammar, in the notation of RFC 5234:
 *
 *   query   = *WSP [ term *( 1*WSP term ) ] *WSP
 *   term    = [ "-" ] ( field ":" values / values )
 *   field   = 1*ALPHA
 *   values  = value *( "," value )
 *   value   = quoted / bare
 *   quoted  = DQUOTE *( char / "\" DQUOTE / "\" "\" ) DQUOTE
 *   bare    = 1*( any character but white space, DQUOTE and "," )
 *
 * A moment takes one bare value: "never", of uses "unknown", or [comparison] (age / date); a count takes [comparison] number.
 */

const MOST_CHARACTERS = 2_000;
const SPACE = /\s+/y;
const FIELD = /([A-Za-z]+):/y;
const BARE = /[^\s",]+/y;
const QUOTED = /"((?:[^"\\]|\\.)*)"/y;
const WHOLE_TERM = /(?:"(?:[^"\\]|\\.)*"?|[^\s"])*/y;
const AGE = /^(\d{1,5})([hdw])$/;
const DATE = /^(\d{4}-\d\d-\d\d)(?:t(\d\d:\d\d)z)?$/;
const COUNT = /^\d{1,7}$/;
const UNIT: Record<string, number> = { h: HOUR, d: DAY, w: 7 * DAY };

/** A value and its place in the text. */
interface Placed {
  text: string;
  exact: boolean;
  from: number;
  to: number;
}

class Misunderstood extends Error {
  constructor(readonly problem: QueryProblem) {
    super(problem.message);
  }
}

function misunderstood(place: { from: number; to: number }, message: string, instead?: string): never {
  throw new Misunderstood({ from: place.from, to: place.to, message, ...(instead === undefined ? {} : { instead }) });
}

/**
 * Reads a query to the register. A part that isn't understood is left out and reported with its place; the rest still
 * counts.
 */
export function parseQuery(text: string): Query {
  return parseQueryOf(text, FIELDS) as Query;
}

/** The same of a query to a list with fields of its own. */
export function parseQueryOf(text: string, fields: Fields): Query<Names> {
  if (text.length > MOST_CHARACTERS) {
    const message = `a query has at most ${MOST_CHARACTERS} characters`;
    return { terms: [], problems: [{ from: MOST_CHARACTERS, to: text.length, message }] };
  }
  return new Parser(text, fields).query();
}

/** Why part of a query isn't understood, so that it can't be used for bulk changes; null where all of it is. */
export function misunderstoodIn(text: string): string | null {
  return parseQuery(text).problems[0]?.message ?? null;
}

class Parser {
  private at = 0;

  constructor(
    private readonly text: string,
    private readonly fields: Fields,
  ) {}

  query(): Query<Names> {
    const query: Query<Names> = { terms: [], problems: [] };
    for (this.take(SPACE); this.at < this.text.length; this.take(SPACE)) {
      const from = this.at;
      try {
        query.terms.push(this.term());
      } catch (error) {
        if (!(error instanceof Misunderstood)) throw error;
        query.problems.push(error.problem);
        // The next term begins after this one, however much of it was understood.
        this.at = from;
        this.take(WHOLE_TERM);
      }
    }
    return query;
  }

  private term(): Query<Names>["terms"][number] {
    const negated = this.text[this.at] === "-";
    if (negated) this.at++;
    const from = this.at;
    const name = this.take(FIELD)?.[1].toLowerCase();
    if (name === undefined) return { ...this.words(), negated };
    const place = { from, to: this.at - 1 };
    if (!Object.hasOwn(this.fields, name)) {
      const known = nearest(name, Object.keys(this.fields));
      misunderstood(
        place,
        `there is no field ${name}; did you mean ${known}? To search for the text, put it in quotes`,
        known,
      );
    }
    const field: Field = this.fields[name];
    const values = this.values({ from: place.from, to: this.at }, `${name}: needs a value`);
    if (field.kind === "choice") return { ...readChoice(name, field.values, values), negated };
    if (values.length > 1) misunderstood(values[1], `${name}: takes one value; repeat ${name}: for another`);
    if (field.kind === "moment") return { ...readMoment(name, values[0]), negated };
    return { ...readCount(name, values[0]), negated };
  }

  private words(): Condition<Names> {
    const begin = this.at - 1;
    const values = this.values({ from: Math.max(begin, 0), to: Math.max(this.at, 1) }, "a minus needs a word after it");
    for (const value of values)
      if (wordsIn(value.text).length === 0) misunderstood(value, "there is no letter or digit here to search for");
    return { kind: "words", values: values.map(({ text }) => text) };
  }

  private values(place: { from: number; to: number }, none: string): Placed[] {
    if (this.isAtEnd()) misunderstood(place, none);
    const values = [this.value()];
    while (this.text[this.at] === ",") {
      this.at++;
      values.push(this.value());
    }
    if (!this.isAtEnd()) misunderstood({ from: this.at, to: this.at + 1 }, "quotes go around a whole value");
    return values;
  }

  private value(): Placed {
    const from = this.at;
    const quoted = this.take(QUOTED);
    if (quoted) return { text: quoted[1].replace(/\\(.)/gs, "$1"), exact: true, from, to: this.at };
    if (this.text[from] === '"') misunderstood({ from, to: this.text.length }, "the quote that starts here has no end");
    const bare = this.take(BARE);
    if (!bare)
      misunderstood({ from: Math.max(from - 1, 0), to: Math.max(from, 1) }, "a value is missing next to the comma");
    return { text: bare[0], exact: false, from, to: this.at };
  }

  private isAtEnd(): boolean {
    return this.at >= this.text.length || /\s/.test(this.text[this.at]);
  }

  private take(pattern: RegExp): RegExpExecArray | null {
    pattern.lastIndex = this.at;
    const match = pattern.exec(this.text);
    if (match) this.at += match[0].length;
    return match;
  }
}

function readChoice(field: string, known: readonly string[] | undefined, placed: Placed[]): Condition<Names> {
  const values = placed.map(({ text, exact }) => ({ text, exact }));
  if (!known) return { kind: "choice", field, values };
  for (const value of placed) {
    const text = value.text.toLowerCase();
    if (known.includes(text) || text === NONE) continue;
    const meant = nearest(text, known);
    misunderstood(
      value,
      `${field}: has no ${value.text || "empty value"}; did you mean ${meant}? It takes ${known.join(", ")}`,
      meant,
    );
  }
  return { kind: "choice", field, values: values.map(({ text }) => ({ text: text.toLowerCase(), exact: true })) };
}

/** A comparison and what stands behind it; without one, equality. */
function splitComparison(text: string): [Comparison, string] {
  const comparison = COMPARISONS.find((one) => text.startsWith(one));
  return comparison ? [comparison, text.slice(comparison.length)] : ["=", text];
}

function readMoment(field: string, value: Placed): Condition<Names> {
  const text = value.text.toLowerCase();
  if (text === "never" || (text === "unknown" && field === "used"))
    return { kind: "moment", field, test: { kind: text } };
  const [comparison, rest] = splitComparison(text);
  const age = AGE.exec(rest);
  if (age && comparison !== "=") {
    const test: MomentTest = { kind: "age", comparison, seconds: Number(age[1]) * UNIT[age[2]] };
    return { kind: "moment", field, test };
  }
  const date = DATE.exec(rest);
  const from = date ? seconds(`${date[1]}T${date[2] ?? "00:00"}:00Z`) : NaN;
  // Days past the end of a month would otherwise be read as days of the next.
  if (date && from >= FIRST_INSTANT && rfc3339(from).startsWith(date[1]))
    return { kind: "moment", field, test: { kind: "date", comparison, from, to: from + (date[2] ? 60 : DAY) } };
  const words = field === "used" ? ", never or unknown" : " or never";
  const takes = `<45d, >2w, <=12h, >2026-03-31, 2026-03-31, >=2026-03-31T17:00Z${words}`;
  return misunderstood(value, `${field}: takes ${takes}, not ${value.text}`);
}

function readCount(field: string, value: Placed): Condition<Names> {
  const [comparison, rest] = splitComparison(value.text);
  if (!COUNT.test(rest)) misunderstood(value, `${field}: takes 3, >5 or <=100, not ${value.text}`);
  return { kind: "count", field, comparison, count: Number(rest) };
}
