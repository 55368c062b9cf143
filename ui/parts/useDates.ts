"use client";

import { createContext, useContext, useMemo, useSyncExternalStore } from "react";
import { type DateSettings, UTC_DATES } from "@/core/time/style";
import { browserDates, type Dates, datesIn } from "./dates";

/** How whoever has signed in wants to be told times; null where they never said. */
export const DateSettingsContext = createContext<DateSettings | null>(null);

let ofBrowser: DateSettings | undefined;
const never = () => () => {};
const snapshot = () => (ofBrowser ??= browserDates());

/** Days and moments in words, by the settings of whoever looks, or else by their browser's; by other clocks where a zone is given. */
export function useDates(zone?: string): Dates {
  const chosen = useContext(DateSettingsContext);
  const here = useSyncExternalStore(never, snapshot, () => UTC_DATES);
  const settings = chosen ?? here;
  return useMemo(() => datesIn(zone ? { ...settings, zone } : settings), [settings, zone]);
}
