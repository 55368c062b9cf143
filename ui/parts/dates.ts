import { NEVER, seconds, type Seconds } from "@/core/time/instant";
import {
  DATE_STYLES,
  dayIn,
  momentIn,
  timeIn,
  weekdayIn,
  type DateSettings,
  type DateStyle,
  WEEK_STARTS,
} from "@/core/time/style";
import { dayNumber } from "@/core/time/zoned";
import { countWords } from "./words";

/** An instant, or its RFC 3339 text. */
type At = Seconds | string;

/** Days and moments in words, as one person wants to be told them. */
export interface Dates {
  settings: DateSettings;
  /** `12 Dec 2026`. */
  day: (at: At) => string;
  /** `12 Dec 2026, 14:00`. */
  moment: (at: At) => string;
  /** A moment with the name of its clocks, for where it stands by itself: `12 Dec 2026, 14:00 Lisbon`. */
  zoned: (at: At) => string;
  /** `14:00`. */
  time: (at: Seconds) => string;
  /** `Sat`. */
  weekday: (at: Seconds) => string;
  /** A moment by the one clock of what is proof: `12 Dec 2026, 14:00 UTC`. */
  utc: (at: At) => string;
  /** When a share ends: a day, or `no end`. */
  end: (expires: Seconds) => string;
  /** How far a moment is: `today`, `in 9 days`, `5 months ago`. */
  distance: (at: Seconds, now: Seconds) => string;
}

/** By which clocks and in which style the server is to tell days in its sentences. */
export const toldIn = ({ settings: { zone, style } }: Dates) => ({ zone, style });

const secondsOf = (at: At): Seconds => (typeof at === "string" ? seconds(at) : at);

export function datesIn(settings: DateSettings): Dates {
  const day = (at: At) => dayIn(settings, secondsOf(at));
  const moment = (at: At) => momentIn(settings, secondsOf(at));
  return {
    settings,
    day,
    moment,
    zoned: (at) => `${moment(at)} ${placeOf(settings.zone)}`,
    time: (at) => timeIn(settings, at),
    weekday: (at) => weekdayIn(settings, at),
    utc: (at) => `${momentIn({ ...settings, zone: "UTC" }, secondsOf(at))} UTC`,
    end: (expires) => (expires === NEVER ? "no end" : day(expires)),
    distance: (at, now) => daysApart(dayNumber(at, settings.zone) - dayNumber(now, settings.zone)),
  };
}

function daysApart(days: number): string {
  if (days === 0) return "today";
  const size = Math.abs(days);
  const words = size < 60 ? countWords(size, "day") : countWords(Math.round(size / 30.4), "month");
  return days > 0 ? `in ${words}` : `${words} ago`;
}

/** A zone by its place alone: `Lisbon`; `UTC` is its own. */
export function placeOf(zone: string): string {
  return zone.slice(zone.lastIndexOf("/") + 1).replaceAll("_", " ");
}

/** How this browser writes dates, until somebody says how they want them. */
export function browserDates(): DateSettings {
  const { timeZone } = new Intl.DateTimeFormat().resolvedOptions();
  return { zone: timeZone, style: styleOf(navigator.language), weekStart: weekStartOf(navigator.language) };
}

const STYLE_BY_FIRST: Partial<Record<string, DateStyle>> = { month: "month-first", year: "year-first" };

function styleOf(locale: string): DateStyle {
  const parts = new Intl.DateTimeFormat(locale, { dateStyle: "short" }).formatToParts(0);
  const first = parts.find(({ type }) => type === "day" || type === "month" || type === "year");
  return STYLE_BY_FIRST[first?.type ?? ""] ?? DATE_STYLES[0];
}

/** Older browsers have it as a property, and some don't tell it at all. */
interface WithWeek extends Intl.Locale {
  getWeekInfo?: () => { firstDay: number };
  weekInfo?: { firstDay: number };
}

function weekStartOf(locale: string): DateSettings["weekStart"] {
  const told = new Intl.Locale(locale) as WithWeek;
  const first = (told.getWeekInfo?.() ?? told.weekInfo)?.firstDay ?? 1;
  return WEEK_STARTS.find((day) => day === first % 7) ?? 1;
}
