import { TZDate } from "@date-fns/tz";
import { DAY, type Seconds } from "../time/instant";
import { dayBegins } from "../time/zoned";
import { plainText } from "./field";
import type { DateOrder } from "./mapping";

/** What a cell of a date says: an instant, a whole day, nothing, or nothing that can be understood. */
export type DateRead = { at: Seconds } | { day: number } | null | { problem: string };

/** What says that there is no date. */
const NO_DATE = new Set([
  "",
  "-",
  "–",
  "—",
  "never",
  "none",
  "no",
  "n/a",
  "not set",
  "unlimited",
  "no end",
  "no expiry",
]);

const MONTHS = "jan feb mar apr may jun jul aug sep oct nov dec".split(" ");
const TIME = String.raw`(?:[t ,]+(\d{1,2}):(\d\d)(?::(\d\d)(?:\.\d+)?)?\s*(am|pm)?\s*(z|utc|gmt|[+-]\d\d:?\d\d)?)?`;
/** RFC 3339, or as much of it as is there. */
const YEAR_FIRST = new RegExp(String.raw`^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})${TIME}$`);
const TWO_NUMBERS = new RegExp(String.raw`^(\d{1,2})([-/.])\s?(\d{1,2})\2\s?(\d{4}|\d\d)${TIME}$`);
const DAY_MONTH = new RegExp(
  String.raw`^(?:[a-z]{2,9},? )?(\d{1,2})(?:\.|st|nd|rd|th)?[ -]([a-z]{3,9})\.?,?[ -](\d{4})${TIME}$`,
);
const MONTH_DAY = new RegExp(
  String.raw`^(?:[a-z]{2,9},? )?([a-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})${TIME}$`,
);

/**
 * Which way round the two numbers before a year stand, by the dates that leave no choice. One report has one way:
 * a row with 31/01 settles it for a row with 03/04.
 */
export class DateOrders {
  /** For each order, the first row that allows no other; and the first that could be either. */
  dayFirst: Settling | null = null;
  monthFirst: Settling | null = null;
  either: Settling | null = null;

  add(row: number, text: string) {
    const [, first, , second] = TWO_NUMBERS.exec(plainText(text)) ?? [];
    if (first === undefined) return;
    if (Number(first) > 12) this.dayFirst ??= { row, text };
    else if (Number(second) > 12) this.monthFirst ??= { row, text };
    else if (first !== second) this.either ??= { row, text };
  }

  /** @returns the order of all dates; null where somebody has to choose */
  get settled(): Exclude<DateOrder, "by the rows"> | null {
    if (this.dayFirst && this.monthFirst) return null;
    if (this.dayFirst) return "day first";
    if (this.monthFirst) return "month first";
    // No date needs it.
    return this.either ? null : "day first";
  }

  /** Why somebody has to choose; null where nobody has to. */
  get question(): string | null {
    const told = ({ row, text }: Settling) => `row ${row} has ${text}`;
    if (this.dayFirst && this.monthFirst)
      return `Dates are written in two ways: ${told(this.dayFirst)}, and ${told(this.monthFirst)}. Choose how to read them; dates that don’t fit are refused.`;
    if (this.settled !== null) return null;
    return `Dates can be read in two ways: ${told(this.either!)}, and no date settles which number is the day. Choose how to read them.`;
  }
}

interface Settling {
  row: number;
  text: string;
}

/** Reads the date of a cell. @param order how two numbers before a year are read @param zone for times without one */
export function readDate(text: string, order: Exclude<DateOrder, "by the rows">, zone: string): DateRead {
  const plain = plainText(text);
  if (NO_DATE.has(plain)) return null;
  const parts = partsOf(plain, order);
  if (!parts) return { problem: "isn’t a date" };
  const [year, month, day, time] = parts;
  const number = Date.UTC(year, month - 1, day) / 86_400_000;
  const date = new Date(number * 86_400_000);
  if (date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day || year < 1900)
    return {
      problem: order === "month first" ? "isn’t a date with the month first" : "isn’t a date with the day first",
    };
  if (time[0] === undefined) return { day: number };
  return instantOf(number, time, zone);
}

type Parts = [year: number, month: number, day: number, time: (string | undefined)[]];

function partsOf(plain: string, order: DateOrder): Parts | null {
  let match = YEAR_FIRST.exec(plain);
  if (match) return [Number(match[1]), Number(match[2]), Number(match[3]), match.slice(4)];
  match = TWO_NUMBERS.exec(plain);
  if (match) {
    const [first, second] = [Number(match[1]), Number(match[3])];
    const year = Number(match[4]) + (match[4].length === 2 ? 2_000 : 0);
    return order === "day first" ? [year, second, first, match.slice(5)] : [year, first, second, match.slice(5)];
  }
  match = DAY_MONTH.exec(plain);
  if (match) return named(match[3], match[2], match[1], match.slice(4));
  match = MONTH_DAY.exec(plain);
  return match && named(match[3], match[1], match[2], match.slice(4));
}

function named(year: string, month: string, day: string, time: (string | undefined)[]): Parts | null {
  const at = MONTHS.indexOf(month.slice(0, 3));
  return at < 0 ? null : [Number(year), at + 1, Number(day), time];
}

/** @param time hour, minute, second, half of the day and offset, where given */
function instantOf(day: number, time: (string | undefined)[], zone: string): DateRead {
  const [hours, minute, second = "0", half, offset] = time;
  const hour = half === undefined ? Number(hours) : (Number(hours) % 12) + (half === "pm" ? 12 : 0);
  if (hour > 23 || Number(minute) > 59 || Number(second) > 59 || (half !== undefined && Number(hours) > 12))
    return { problem: "has a time of day that doesn’t exist" };
  const into = hour * 3_600 + Number(minute) * 60 + Number(second);
  if (offset === undefined) return { at: zonedInstant(day, into, zone) };
  return { at: day * DAY + into - offsetOf(offset) };
}

function offsetOf(offset: string): number {
  const [, sign, hours, minutes] = /^([+-])(\d\d):?(\d\d)$/.exec(offset) ?? [];
  return sign === undefined ? 0 : (sign === "-" ? -1 : 1) * (Number(hours) * 3_600 + Number(minutes) * 60);
}

/** The instant at a time of day by a zone’s clocks, which may be put forward or back on that day. */
function zonedInstant(day: number, into: number, zone: string): Seconds {
  const begins = dayBegins(day, zone);
  if (dayBegins(day + 1, zone) - begins === DAY) return begins + into;
  const date = new Date(day * DAY * 1_000);
  const local = [date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate()] as const;
  return new TZDate(...local, Math.floor(into / 3_600), Math.floor(into / 60) % 60, into % 60, zone).getTime() / 1_000;
}
