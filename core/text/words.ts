import { DAY, type Seconds } from "../time/instant";

const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** Says a day, by the clocks and in the style of whoever is told. */
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
  return `${count.toLocaleString("en-GB")} ${count === 1 ? one : many}`;
}

const LIST = new Intl.ListFormat("en-GB");

/** Some things as a list in a sentence: `a, b and c`. */
export function listWords(all: readonly string[]): string {
  return LIST.format(all);
}
