/**
 * Instants are whole seconds since 1970 in UTC, as the estate file has them: plain numbers that sort,
 * fit a typed array and leave no question of time zones.
 */
export type Seconds = number;

/** Later than any instant: the end of a share without an end. */
export const NEVER: Seconds = 0xffffffff;

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
  if (end === 0) return null;
  return end === NEVER ? "never" : rfc3339(end);
}
