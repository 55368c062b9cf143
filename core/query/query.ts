import type { Seconds } from "../time/instant";
import type { ChoiceName, CountName, FieldName, MomentName } from "./fields";

/** The names of a list's fields, by what each is: of the register's, unless it is said. */
export interface Names {
  choice: string;
  moment: string;
  count: string;
}
export interface RegisterNames {
  choice: ChoiceName;
  moment: MomentName;
  count: CountName;
}

export const COMPARISONS = ["<=", ">=", "<", ">", "="] as const;
export type Comparison = (typeof COMPARISONS)[number];

/** A value as the query has it: in quotes the whole value, otherwise part of it. */
export interface Value {
  text: string;
  exact: boolean;
}

/**
 * What a moment is asked. An age is how long ago, or how long ahead; a date stands for the seconds from
 * `from` up to, but not including, `to`: a whole day, or a minute of it. Unknown is what lies behind the instant
 * that is asked about, so that nothing is known of it then.
 */
export type MomentTest =
  | { kind: "never" }
  | { kind: "unknown" }
  | { kind: "age"; comparison: Comparison; seconds: Seconds }
  | { kind: "date"; comparison: Comparison; from: Seconds; to: Seconds };

export type KnownTest = Exclude<MomentTest, { kind: "unknown" }>;

/** One condition, and whether it must hold or must not. */
export type Condition<N extends Names = RegisterNames> =
  /** One of some words or phrases stands in a name, a place or an address. */
  | { kind: "words"; values: string[] }
  | { kind: "choice"; field: N["choice"]; values: Value[] }
  | { kind: "moment"; field: N["moment"]; test: MomentTest }
  | { kind: "count"; field: N["count"]; comparison: Comparison; count: number };
export type Term<N extends Names = RegisterNames> = Condition<N> & { negated: boolean };

/** Something in a query that isn't understood: where it stands, what to do, and what was perhaps meant. */
export interface QueryProblem {
  from: number;
  to: number;
  message: string;
  instead?: string;
}

/** All terms must hold. What isn't understood is left out and reported. */
export interface Query<N extends Names = RegisterNames> {
  terms: Term<N>[];
  problems: QueryProblem[];
}

export function isUnknownTest(term: Condition): boolean {
  return term.kind === "moment" && term.test.kind === "unknown";
}

/** The field that a term asks about; null for words. */
export function fieldOf(term: Condition): FieldName | null {
  return term.kind === "words" ? null : term.field;
}
