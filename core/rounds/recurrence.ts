import { TZDate } from "@date-fns/tz";
import { format } from "date-fns/format";
import { RRuleTemporal } from "rrule-temporal";
import { toText } from "rrule-temporal/totext";
import { dayWords } from "../text/words";
import type { Seconds } from "../time/instant";

/** How often a round is held again: a recurrence rule of RFC 5545 (section 3.3.10), without its name. */
export interface Recurring {
  rule: string;
  /** The time zone in which it is calculated. */
  zone: string;
  /** When the first one opens (DTSTART). */
  first: Seconds;
}

/** How often a round can be repeated: every six months, that is ten years. */
export const MOST_TIMES = 20;
/** A rule without a date in so many steps is taken to have none. */
const MOST_STEPS = 2_000;

/** Every instant of a rule, up to `MOST_TIMES` + 1. @throws {Error} where it isn't a rule */
export function occurrencesOf(recurring: Recurring): Seconds[] {
  const found: Seconds[] = [];
  parsed(recurring).all((at) => {
    found.push(Math.floor(Date.parse(withoutZone(at.toString())) / 1000));
    return found.length <= MOST_TIMES;
  });
  return found;
}

function parsed({ rule, zone, first }: Recurring): RRuleTemporal {
  const at = format(new TZDate(first * 1000, zone), "yyyyMMdd'T'HHmmss");
  const rruleString = `DTSTART;TZID=${zone}:${at}\nRRULE:${rule}`;
  return new RRuleTemporal({ rruleString, maxIterations: MOST_STEPS, strict: true });
}

/** `2027-06-07T09:00:00+02:00[Europe/Berlin]` without what `Date` doesn't read. */
const withoutZone = (text: string) => text.replace(/\[.*$/, "");

/** When the next round opens after an instant; null where there are no more. */
export function nextOpening(recurring: Recurring, after: Seconds): Seconds | null {
  return occurrencesOf(recurring).find((at) => at > after) ?? null;
}

/**
 * What is wrong with a recurrence, and what to do about it, or null.
 * @param lasts how long each round is open
 */
export function whyNotRecurring(recurring: Recurring, lasts: Seconds): string | null {
  if (!/(^|;)(COUNT|UNTIL)=/i.test(recurring.rule))
    return `Repeat: say how often, up to ${MOST_TIMES} times, or until when. A round without an end is never looked at again.`;
  let found: Seconds[];
  try {
    found = occurrencesOf(recurring);
  } catch (error) {
    return `Repeat: this rule can’t be read (${(error as Error).message}). FREQ=MONTHLY;INTERVAL=6;COUNT=4 is one.`;
  }
  if (found.length > MOST_TIMES) return `Repeat: ${MOST_TIMES} times at most.`;
  const all = [recurring.first, ...found.filter((at) => at > recurring.first)];
  if (all.length < 2) return "Repeat: with this rule it happens only once. Repeat it more often, or not at all.";
  const overlapping = all.findIndex((at, i) => i > 0 && at < all[i - 1] + lasts);
  if (overlapping < 0) return null;
  const [before, next] = [all[overlapping - 1], all[overlapping]];
  return `Repeat: it would open again on ${dayWords(next)}, while the one before is open until ${dayWords(before + lasts)}. Close it sooner, or repeat it less often.`;
}

/** A rule in words: `every 6 months on 1st Monday, 4 times in all`. */
export function recurrenceWords(recurring: Recurring): string {
  // The time of day is shown elsewhere, in the reader's time zone.
  return toText(parsed(recurring))
    .replace(/ at \d+(:\d+)? [AP]M [^\s,]+/, "")
    .replace(/ for (\d+) times$/, ", $1 times in all");
}
