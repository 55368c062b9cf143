import { DAY, HOUR, rfc3339, type Seconds } from "../time/instant";
import { listedValues } from "./fields";
import type { Condition, MomentTest, Term, Value } from "./query";

const BARE_WORD = /^[\p{L}\p{N}_.@+/]+$/u;

/** Terms written as a query, which `parseQuery` reads back as the same terms. */
export function printQuery(terms: readonly Term[]): string {
  return terms.map((term) => (term.negated ? "-" : "") + printCondition(term)).join(" ");
}

function printCondition(term: Condition): string {
  switch (term.kind) {
    case "words":
      return term.values.map((text) => (BARE_WORD.test(text) ? text : quoted(text))).join();
    case "choice":
      return `${term.field}:${term.values.map((value) => printValue(value, listedValues(term.field))).join()}`;
    case "moment":
      return `${term.field}:${printTest(term.test)}`;
    case "count":
      return `${term.field}:${printComparison(term.comparison)}${term.count}`;
  }
}

function printValue({ text, exact }: Value, listed: readonly string[] | undefined): string {
  return exact && !listed ? quoted(text) : text;
}

export function quoted(text: string): string {
  return `"${text.replace(/["\\]/g, "\\$&")}"`;
}

function printTest(test: MomentTest): string {
  switch (test.kind) {
    case "never":
    case "unknown":
      return test.kind;
    case "age":
      return printComparison(test.comparison) + printAge(test.seconds);
    case "date":
      return (
        printComparison(test.comparison) +
        rfc3339(test.from).slice(0, test.to - test.from === DAY ? 10 : 16) +
        (test.to - test.from === DAY ? "" : "Z")
      );
  }
}

function printComparison(comparison: string): string {
  return comparison === "=" ? "" : comparison;
}

/** In days where it is whole days, else in hours. */
function printAge(seconds: Seconds): string {
  return seconds % DAY === 0 ? `${seconds / DAY}d` : `${seconds / HOUR}h`;
}
