import { DAY, seconds, type Seconds } from "@/core/time/instant";
import { dayIn, momentIn, UTC_DATES } from "@/core/time/style";
import type { Platform } from "../../platform/platform";
import { Problem } from "../../platform/problem";

/** When a UTC day ends, or now if it isn't over. @throws {Problem} if it hasn't begun */
export function endOfDay({ clock }: Platform, day: string): Seconds {
  const [begins, now] = [seconds(`${day}T00:00:00Z`), clock.seconds()];
  if (begins > now) throw new Problem("bad", `day: ${day} hasn’t begun yet.`);
  return Math.min(begins + DAY - 1, now);
}

/** From the beginning of one day to the end of another. @throws {Problem} if that span is empty, or in the future */
export function spanOf(app: Platform, { from, to }: { from: string; to: string }): { from: Seconds; to: Seconds } {
  const [begins, ends] = [seconds(`${from}T00:00:00Z`), endOfDay(app, to)];
  if (begins > ends) throw new Problem("bad", `from: ${from} is after ${to}, the last day.`);
  return { from: begins, to: ends };
}

/** The engine's parameter for an instant; undefined if that is now. */
export function pastOr({ clock }: Platform, at: Seconds): Seconds | undefined {
  return at < clock.seconds() ? at : undefined;
}

/** In UTC, like all times in reports. */
export const dayOf = (at: Seconds) => dayIn(UTC_DATES, at);
export const momentOf = (at: Seconds) => momentIn(UTC_DATES, at);
export const figure = (value: number) => value.toLocaleString("en-GB");
