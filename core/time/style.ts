import { TZDate } from "@date-fns/tz";
// Imported by itself, since the whole package is hundreds of files.
import { format } from "date-fns/format";
import type { Seconds } from "./instant";

/** The ways in which dates are written. A list in the order in which they are offered. */
export const DATE_STYLES = ["day-first", "month-first", "year-first"] as const;
export type DateStyle = (typeof DATE_STYLES)[number];

const PATTERNS: Record<DateStyle, { day: string; time: string }> = {
  "day-first": { day: "d MMM yyyy", time: "HH:mm" },
  "month-first": { day: "MMM d, yyyy", time: "h:mm aaa" },
  // ISO 8601.
  "year-first": { day: "yyyy-MM-dd", time: "HH:mm" },
};

/** The days a week can begin with, as `Date` counts them: Saturday is the first in much of the Arab world. */
export const WEEK_STARTS = [1, 0, 6] as const;

/** How somebody reads times: time zone, style, and first day of the week. */
export interface DateSettings {
  zone: string;
  style: DateStyle;
  weekStart: (typeof WEEK_STARTS)[number];
}

export const UTC_DATES: DateSettings = { zone: "UTC", style: "day-first", weekStart: 1 };

/** `12 Dec 2026`, `Dec 12, 2026` or `2026-12-12`, by the clocks of the zone. */
export function dayIn({ zone, style }: Pick<DateSettings, "zone" | "style">, at: Seconds): string {
  return format(new TZDate(at * 1000, zone), PATTERNS[style].day);
}

/** `14:00`, or `2:00 pm`. */
export function timeIn({ zone, style }: DateSettings, at: Seconds): string {
  return format(new TZDate(at * 1000, zone), PATTERNS[style].time);
}

/** `Sat`. */
export function weekdayIn({ zone }: DateSettings, at: Seconds): string {
  return format(new TZDate(at * 1000, zone), "EEE");
}

/** A day with its time: `12 Dec 2026, 14:00`. */
export function momentIn(settings: DateSettings, at: Seconds): string {
  return `${dayIn(settings, at)}${settings.style === "year-first" ? " " : ", "}${timeIn(settings, at)}`;
}
