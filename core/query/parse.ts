import { DAY, HOUR } from "../time/instant";
import { type Field, FIELD_NAMES, FIELDS, type FieldName } from "./fields";

/** Something in a query that isn't understood: where it stands, and what to do. */
export interface QueryProblem {
  from: number;
  to: number;
  message: string;
}

/** One condition; all of a query's must hold. */
export type Term = { negated: boolean } & (
  | { kind: "text"; text: string }
  | { kind: "words"; field: FieldName; values: string[]; exact: boolean }
  /** `seconds` null asks for "never". */
  | { kind: "age"; field: FieldName; comparison: "<" | ">"; seconds: number | null }
);

export interface Query {
  terms: Term[];
  problems: QueryProblem[];
}

const MOST_CHARACTERS = 2_000;
/** A minus, a field with its colon, then words with commas between them; a quoted part may hold anything. */
const TERM = /(-)?(?:([a-z]+):)?((?:"[^"]*"?|[^\s"])*)/giy;
const AGE = /^([<>])(\d{1,5})([hdw])$/;
const UNIT: Record<string, number> = { h: HOUR, d: DAY, w: 7 * DAY };

/**
 * Reads a query: words, `field:value`, `-field:value`, `field:a,b`, `field:>45d`, quotes. A part that
 * isn't understood is left out and reported with its place; the rest still counts.
 */
export function parseQuery(text: string): Query {
  const query: Query = { terms: [], problems: [] };
  if (text.length > MOST_CHARACTERS) {
    const message = `a query has at most ${MOST_CHARACTERS} characters`;
    return { terms: [], problems: [{ from: MOST_CHARACTERS, to: text.length, message }] };
  }
  let at = 0;
  while (at < text.length) {
    if (/\s/.test(text[at])) {
      at++;
      continue;
    }
    TERM.lastIndex = at;
    const [whole, minus, name, value] = TERM.exec(text)!;
    const result = readTerm(minus === "-", name?.toLowerCase(), value);
    if (typeof result === "string") query.problems.push({ from: at, to: at + whole.length, message: result });
    else query.terms.push(result);
    at += Math.max(whole.length, 1);
  }
  return query;
}

function readTerm(negated: boolean, name: string | undefined, value: string): Term | string {
  if (name === undefined) {
    const text = unquoted(value).toLowerCase();
    return text === "" ? "a minus needs a word behind it" : { negated, kind: "text", text };
  }
  if (!isFieldName(name)) return `there is no field ${name}; did you mean ${nearest(name, FIELD_NAMES)}?`;
  if (value === "") return `${name}: needs a value`;
  const field: Field = FIELDS[name];
  return field.kind === "age" ? readAge(negated, name, value) : readWords(negated, name, field, value);
}

function readAge(negated: boolean, field: FieldName, value: string): Term | string {
  if (value.toLowerCase() === "never") return { negated, kind: "age", field, comparison: ">", seconds: null };
  const match = AGE.exec(value.toLowerCase());
  if (!match) return `${field}: takes <45d, >2w, >12h or never, not ${value}`;
  return { negated, kind: "age", field, comparison: match[1] as "<" | ">", seconds: Number(match[2]) * UNIT[match[3]] };
}

function readWords(negated: boolean, name: FieldName, field: Field & { kind: "words" }, value: string): Term | string {
  const values = splitValues(value).map((one) => one.toLowerCase());
  const unknown = field.values && values.find((one) => !field.values!.includes(one));
  if (unknown !== undefined && field.values)
    return `${name}: has no ${unknown || "empty value"}; did you mean ${nearest(unknown, field.values)}? It takes ${field.values.join(", ")}`;
  return { negated, kind: "words", field: name, values, exact: field.values !== undefined };
}

function splitValues(value: string): string[] {
  return (value.match(/(?:"[^"]*"?|[^,"])+/g) ?? []).map(unquoted);
}

function unquoted(text: string): string {
  return text.replaceAll('"', "");
}

function isFieldName(name: string): name is FieldName {
  return Object.hasOwn(FIELDS, name);
}

function nearest(word: string, known: readonly string[]): string {
  return [...known].sort((a, b) => editDistance(word, a) - editDistance(word, b))[0];
}

/** Levenshtein's distance, one row at a time. */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next[j] = Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length];
}
