import { TZDate } from "@date-fns/tz";
import * as chrono from "chrono-node";
import { endOfMonth } from "date-fns/endOfMonth";
import { endOfQuarter } from "date-fns/endOfQuarter";
import { endOfWeek } from "date-fns/endOfWeek";
import { endOfYear } from "date-fns/endOfYear";
import { addMonths } from "date-fns/addMonths";
import { addQuarters } from "date-fns/addQuarters";
import { addWeeks } from "date-fns/addWeeks";
import { addYears } from "date-fns/addYears";
import { FIRST_INSTANT, LAST_INSTANT, type Seconds } from "./instant";
import type { DateSettings } from "./style";

/** A day as a calendar has it; months are counted from 1. */
export interface CalendarDay {
  year: number;
  month: number;
  day: number;
}

/** What a text means: a moment, or a whole day where it names no time. */
export type Understood = { kind: "moment"; at: Seconds } | ({ kind: "day" } & CalendarDay);

interface Asked {
  now: Seconds;
  dates: DateSettings;
  /** Where a text leaves the year or the week open: whether what is to come is meant, or what has been. */
  toward: "future" | "past";
}

/**
 * What a text means as a date or a moment: `12 Dec`, `2026-12-12 14:00`, `in 14 days`, `end of month`.
 * Only a text that is understood whole counts. `3/4` is in the order of the person's date style.
 * @returns null where it isn't understood
 */
export function understand(text: string, asked: Asked): Understood | null {
  const words = text.trim().replaceAll(/\s+/g, " ");
  const found = endOf(words, asked) ?? written(words, /^last\b/i.test(words) ? { ...asked, toward: "past" } : asked);
  return found && isWithinReach(found) ? found : null;
}

/** Whether RFC 3339 can express it, so that an estate can hold it. */
function isWithinReach(found: Understood): boolean {
  return found.kind === "day"
    ? found.year >= 1 && found.year <= 9999
    : found.at >= FIRST_INSTANT && found.at <= LAST_INSTANT;
}

/** When a day begins by a zone's clocks. */
export function dayStart({ year, month, day }: CalendarDay, zone: string): Seconds {
  return secondsOf(new TZDate(year, month - 1, day, zone));
}

/** The last second of a day by a zone's clocks, however long the day is. */
export function dayEnd({ year, month, day }: CalendarDay, zone: string): Seconds {
  return secondsOf(new TZDate(year, month - 1, day + 1, zone)) - 1;
}

const secondsOf = (date: Date): Seconds => Math.floor(date.getTime() / 1000);

const SPANS = {
  week: { end: endOfWeek, add: addWeeks },
  month: { end: endOfMonth, add: addMonths },
  quarter: { end: endOfQuarter, add: addQuarters },
  year: { end: endOfYear, add: addYears },
};

/** `end of month`, `the end of next week`. */
function endOf(words: string, { now, dates }: Asked): Understood | null {
  const found = /^(?:the )?end of (?:the |this |(next) )?(week|month|quarter|year)$/i.exec(words);
  if (!found) return null;
  const { end, add } = SPANS[found[2].toLowerCase() as keyof typeof SPANS];
  const today = new TZDate(now * 1000, dates.zone);
  const date = end(found[1] ? add(today, 1) : today, { weekStartsOn: dates.weekStart });
  return { kind: "day", ...calendarDay(date) };
}

function calendarDay(date: Date): CalendarDay {
  return { year: date.getFullYear(), month: date.getMonth() + 1, day: date.getDate() };
}

/** What the package reads, on clocks that show the zone's time. */
function written(words: string, { now, dates, toward }: Asked): Understood | null {
  const local = new TZDate(now * 1000, dates.zone);
  const shown = Date.UTC(local.getFullYear(), local.getMonth(), local.getDate(), local.getHours(), local.getMinutes());
  const reader = dates.style === "month-first" ? chrono.en.casual : chrono.en.GB;
  const [found, ...more] = reader.parse(
    words,
    { instant: new Date(shown), timezone: 0 },
    { forwardDate: toward === "future" },
  );
  if (!found || more.length > 0 || found.end || found.text.length !== words.length) return null;
  const { start } = found;
  // A span of hours keeps its length on the night when the clocks change.
  if (isHours(words)) return { kind: "moment", at: now + (utcSeconds(start) - shown / 1000) };
  const day = toward === "past" ? backFrom(local, start) : dayOf(start);
  if (!start.isCertain("hour")) return { kind: "day", ...day };
  const [hour, minute] = [start.get("hour") ?? 0, start.get("minute") ?? 0];
  const offset = start.isCertain("timezoneOffset") ? start.get("timezoneOffset") : null;
  const at =
    offset === null
      ? secondsOf(new TZDate(day.year, day.month - 1, day.day, hour, minute, dates.zone))
      : Date.UTC(day.year, day.month - 1, day.day, hour, minute - offset) / 1000;
  return { kind: "moment", at };
}

const isHours = (words: string) =>
  /\b(hours?|hrs?|h|minutes?|mins?)\b/i.test(words) && !/\b(days?|weeks?|months?|years?)\b/i.test(words);

function dayOf(parts: chrono.ParsedComponents): CalendarDay {
  return { year: parts.get("year")!, month: parts.get("month")!, day: parts.get("day")! };
}

function utcSeconds(parts: chrono.ParsedComponents): Seconds {
  const { year, month, day } = dayOf(parts);
  return (
    Date.UTC(year, month - 1, day, parts.get("hour") ?? 0, parts.get("minute") ?? 0, parts.get("second") ?? 0) / 1000
  );
}

/** The latest such day that isn't to come, where only a weekday, or a day of a year, is named. */
function backFrom(today: Date, parts: chrono.ParsedComponents): CalendarDay {
  const day = dayOf(parts);
  if (Date.UTC(day.year, day.month - 1, day.day) <= Date.UTC(today.getFullYear(), today.getMonth(), today.getDate()))
    return day;
  if (parts.isCertain("weekday") && !parts.isCertain("day"))
    return calendarDay(new Date(day.year, day.month - 1, day.day - 7));
  return parts.isCertain("year") || !parts.isCertain("month") ? day : { ...day, year: day.year - 1 };
}
