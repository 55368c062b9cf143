import { TZDate } from "@date-fns/tz";
import type { Seconds } from "./instant";

/** The day that an instant lies in by a zone's clocks, counted from 1 January 1970. */
export function dayNumber(at: Seconds, zone: string): number {
  const date = new TZDate(at * 1000, zone);
  return Date.UTC(date.getFullYear(), date.getMonth(), date.getDate()) / 86_400_000;
}

const begins = new Map<string, Map<number, Seconds>>();

/** When a day begins by a zone's clocks. Asking for a zone's rules is slow, so each day is asked about once. */
export function dayBegins(day: number, zone: string): Seconds {
  const known = begins.get(zone) ?? new Map<number, Seconds>();
  begins.set(zone, known);
  let at = known.get(day);
  if (at === undefined) {
    const date = new Date(day * 86_400_000);
    const local = new TZDate(date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate(), zone);
    known.set(day, (at = Math.floor(local.getTime() / 1000)));
  }
  return at;
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
    // It throws for anything that isn't a zone.
    return false;
  }
}
