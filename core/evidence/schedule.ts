import { addMonths } from "date-fns/addMonths";
import { addWeeks } from "date-fns/addWeeks";
import { setHours } from "date-fns/setHours";
import { startOfISOWeek } from "date-fns/startOfISOWeek";
import { startOfMonth } from "date-fns/startOfMonth";
import { TZDate } from "@date-fns/tz";
import type { Seconds } from "../time/instant";
import type { ReportKind } from "./report";

/** Reports that can be made on a schedule: those that ask for nothing but a day or a span. */
export const SCHEDULED = ["state", "open", "controls"] as const satisfies readonly ReportKind[];
export type ScheduledKind = (typeof SCHEDULED)[number];
export const EVERY = ["week", "month"] as const;
export type Every = (typeof EVERY)[number];

/** A report that is made again and again, and sent to somebody. */
export interface ReportSchedule {
  id: number;
  kind: ScheduledKind;
  every: Every;
  to: string;
  addedBy: string;
  nextAt: Seconds;
  /** When it last went out; null where it hasn't yet. */
  sentAt: Seconds | null;
  /** Why it could not go out the last time; null where it did. */
  error: string | null;
}

/** In the morning, when whoever reads it comes to work. */
const HOUR_OF_DAY = 7;

/** When a report is due next after an instant: on the first of each month, or on each Monday, at 07:00 of a zone. */
export function nextDue(every: Every, after: Seconds, zone: string): Seconds {
  const begins = every === "month" ? startOfMonth : startOfISOWeek;
  const add = every === "month" ? addMonths : addWeeks;
  const due = (periods: number) =>
    setHours(add(begins(new TZDate(after * 1_000, zone)), periods), HOUR_OF_DAY).getTime() / 1_000;
  return due(0) > after ? due(0) : due(1);
}
