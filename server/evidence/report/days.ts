import { DAY, seconds, type Seconds } from "@/core/time/instant";
import { dayIn, momentIn, UTC_DATES } from "@/core/time/style";
import type { Platform } from "../../platform/platform";
import { Problem } from "../../platform/problem";

/** When a day of UTC ends, or now where it isn't over. @throws {Problem} where it hasn't begun */
export function endOfDay({ clock }: Platform, day: string): Seconds {
  const [begins, now] = [seconds(`${day}T00:00:00Z`), clock.seconds()];
  if (begins > now) throw new Problem("bad", `day: ${day} hasn’t begun yet.`);
  return Math.min(begins + DAY - 1, now);
}

/** From the beginning of one day to the end of another. @throws {Problem} where that is no span, or lies ahead */
export function spanOf(app: Platform, { from, to }: { from: string; to: string }): { from: Seconds; to: Seconds } {
  const [begins, ends] = [seconds(`${from}T00:00:00Z`), endOfDay(app, to)];
  if (begins > ends) throw new Problem("bad", `from: ${from} is after ${to}, the last day.`);
  return { from: begins, to: ends };
}

/** What the engine is asked about an instant with: nothing where that is now. */
export function pastOr({ clock }: Platform, at: Seconds): Seconds | undefined {
  return at < clock.seconds() ? at : undefined;
}

/** In UTC, as every report tells times. */
export const dayOf = (at: Seconds) => dayIn(UTC_DATES, at);
export const momentOf = (at: Seconds) => momentIn(UTC_DATES, at);
export const figure = (value: number) => value.toLocaleString("en-GB");
