import { TZDate } from "@date-fns/tz";
import { addDays } from "date-fns/addDays";
import { startOfDay } from "date-fns/startOfDay";
import type { Seconds } from "../time/instant";
import type { Telling } from "./watch";

/** When a message goes: at once, or with others in a digest at some time. */
export type When = { digest: false } | { digest: true; at: Seconds };

/**
 * When somebody is told of something. Days begin, and quiet hours begin and end, by the clocks of the watch's zone;
 * where those skip a time, it is the next that they show.
 * @param toldToday how many messages have gone out to them since the day began
 */
export function whenToTell({ mostADay, quiet, zone }: Telling, now: Seconds, toldToday: number): When {
  const quietEnd = quiet === null ? null : endOfQuiet(quiet, zone, now);
  if (quietEnd !== null) return { digest: true, at: quietEnd };
  if (toldToday < mostADay) return { digest: false };
  const midnight = inSeconds(startOfDay(addDays(new TZDate(now * 1000, zone), 1)));
  const later = quiet === null ? null : endOfQuiet(quiet, zone, midnight);
  return { digest: true, at: later ?? midnight };
}

/** The beginning of the day by a zone's clocks. */
export function dayBegan(zone: string, now: Seconds): Seconds {
  return inSeconds(startOfDay(new TZDate(now * 1000, zone)));
}

/** When the quiet hours end in which an instant lies; null where it lies in none. */
function endOfQuiet({ from, to }: { from: string; to: string }, zone: string, now: Seconds): Seconds | null {
  const today = new TZDate(now * 1000, zone);
  // Hours over midnight may have begun yesterday.
  for (const day of [addDays(today, -1), today]) {
    const begins = clock(day, from);
    const ends = clock(to > from ? day : addDays(day, 1), to);
    if (from !== to && begins <= now && now < ends) return ends;
  }
  return null;
}

function clock(day: Date, time: string): Seconds {
  const [hours, minutes] = time.split(":").map(Number);
  const at = startOfDay(day);
  at.setHours(hours, minutes);
  return inSeconds(at);
}

function inSeconds(date: Date): Seconds {
  return Math.floor(date.getTime() / 1000);
}
