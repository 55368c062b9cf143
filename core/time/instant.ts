/**
 * Instants are whole seconds since 1970 in UTC, as the estate file has them: plain numbers that sort,
 * fit a column of doubles and leave no question of time zones. Before 1970 they are negative.
 */
export type Seconds = number;

/** The first and the last instant that an estate file can hold: 0001-01-01T00:00:00Z and 9999-12-31T23:59:59Z. */
export const FIRST_INSTANT: Seconds = -62_135_596_800;
export const LAST_INSTANT: Seconds = 253_402_300_799;

/** Later than any instant: the end of a share without an end. It is finite, so that JSON can carry it. */
export const NEVER: Seconds = LAST_INSTANT + 1;

/** Earlier than any instant: the start of a share without a start, the last use of one that was never used. */
export const ALWAYS: Seconds = FIRST_INSTANT - 1;

/** A column of instants: no integer type of 32 bits holds them all. */
export type Instants = Float64Array<ArrayBuffer>;

export const HOUR: Seconds = 3_600;
/** A day is 24 hours, whatever a calendar says. */
export const DAY: Seconds = 24 * HOUR;

/** RFC 3339 text to seconds. The text has been checked by the record schemas. */
export function seconds(text: string): Seconds {
  return Date.parse(text) / 1000;
}

/** Seconds to RFC 3339 text in UTC without a fraction, as estate files hold it. */
export function rfc3339(at: Seconds): string {
  const day = Math.floor(at / DAY);
  const second = at - day * DAY;
  return `${dayText(day)}T${TWO_DIGITS[(second / HOUR) | 0]}:${TWO_DIGITS[((second / 60) | 0) % 60]}:${TWO_DIGITS[second % 60]}Z`;
}

/** The day of an instant in UTC, as in `2026-11-30`. */
export function utcDay(at: Seconds): string {
  return dayText(Math.floor(at / DAY));
}

const TWO_DIGITS = Array.from({ length: 60 }, (_, number) => String(number).padStart(2, "0"));
/** By day since 1970: there are few of them, and a list tells most of them many times. */
const dayTexts = new Map<number, string>();

function dayText(day: number): string {
  let text = dayTexts.get(day);
  if (text === undefined) dayTexts.set(day, (text = new Date(day * DAY * 1000).toISOString().slice(0, -14)));
  return text;
}

/** An end as answers give it: an instant, `"never"`, or null where nothing lasts at all. */
export function until(end: Seconds): string | null {
  if (end === ALWAYS) return null;
  return end === NEVER ? "never" : rfc3339(end);
}
