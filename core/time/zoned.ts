import { TZDate } from "@date-fns/tz";
import { format } from "date-fns";
import type { Seconds } from "./instant";

/** A moment by the clocks of a zone: `23 Nov 2026, 09:14`. */
export function zonedWords(at: Seconds, zone: string): string {
  return format(new TZDate(at * 1000, zone), "d MMM yyyy, HH:mm");
}

/** A moment as a field for date and time holds it: `2026-11-23T09:14`. */
export function fieldText(at: Seconds, zone: string): string {
  return format(new TZDate(at * 1000, zone), "yyyy-MM-dd'T'HH:mm");
}

/** The moment that a field for date and time means in a zone; null where nothing whole stands there. */
export function fieldInstant(text: string, zone: string): Seconds | null {
  const parts = /^(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d)/.exec(text)?.slice(1).map(Number);
  if (!parts) return null;
  const [year, month, day, hour, minute] = parts;
  return Math.floor(new TZDate(year, month - 1, day, hour, minute, zone).getTime() / 1000);
}

const zonesKnown = new Set<string>();

/** Whether a zone's name is one of the tz database. */
export function isZone(name: string): boolean {
  if (zonesKnown.has(name)) return true;
  try {
    new Intl.DateTimeFormat("en", { timeZone: name });
    zonesKnown.add(name);
    return true;
  } catch {
    // It throws for whatever is no zone.
    return false;
  }
}
