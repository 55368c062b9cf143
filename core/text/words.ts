import { DAY, type Seconds } from "../time/instant";

const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** Writes a day in the reader's time zone and style. */
export type DayWords = (at: Seconds) => string;

/** A day in words, in UTC: `12 Nov 2026`. */
export function dayWords(at: Seconds): string {
  const date = new Date(at * 1000);
  return `${date.getUTCDate()} ${MONTHS[date.getUTCMonth()]} ${date.getUTCFullYear()}`;
}

/** When something ends, in UTC: by its day where that is the last second of one, or else with its time. */
export function lastDayWords(at: Seconds): string {
  return (at + 1) % DAY === 0
    ? dayWords(at)
    : `${dayWords(at)}, ${new Date(at * 1000).toISOString().slice(11, 16)} UTC`;
}

/** A number of things in words: `1 file`, `1,032 files`. */
export function countWords(count: number, one: string, many = one + "s"): string {
  return `${NUMBER.format(count)} ${PLURAL.select(count) === "one" ? one : many}`;
}

const NUMBER = new Intl.NumberFormat("en-GB");
const PLURAL = new Intl.PluralRules("en-GB");
const LIST = new Intl.ListFormat("en-GB");
const EITHER = new Intl.ListFormat("en-GB", { type: "disjunction" });

/** Some things as a list in a sentence: `a, b and c`. */
export function listWords(all: readonly string[]): string {
  return LIST.format(all);
}

/** Some things of which any will do: `a, b or c`. */
export function eitherWords(all: readonly string[]): string {
  return EITHER.format(all);
}
