import { shownName } from "@/core/text/shown";
import type { StoreTold } from "@/contract/stores";
import type { StoreRecord } from "@/core/estate/records";
import { isLate } from "@/core/estate/storeStatus";
import { DAY, seconds, utcDay } from "@/core/time/instant";
import type { Reads } from "../platform/db/open";
import { bodiesNow } from "../records/facts";
import { connections } from "./connections";
import { readingDays } from "./readingDays";

/** How many days of readings are shown for each store. */
const DAYS_TOLD = 14;

export type StoreKnown = Omit<StoreTold, "records">;

/** Every store that is connected or known from files, with how its readings have gone. */
export async function storesKnown(db: Reads): Promise<StoreKnown[]> {
  const now = db.clock.seconds();
  const days = await readingDays(db, utcDay(now - DAYS_TOLD * DAY), utcDay(now));
  const told = (await bodiesNow<StoreRecord>(db, "store")).map(({ source, record }) => ({ source, record }));
  const readings = (id: string) =>
    days
      .filter(({ store }) => store === id)
      .map(({ store: _, ...day }) => day)
      .reverse();
  const connected = (await connections(db)).map((one): StoreKnown => {
    const record = told.find(({ source }) => source === one.id)?.record;
    const lastReadAt = one.last_read_at === null ? null : seconds(one.last_read_at);
    return {
      ...{ id: one.id, name: shownName(one.name), isRead: true, url: one.url, lastReadAt, lastError: one.last_error },
      ...{ capabilities: record?.capabilities ?? null, region: record?.region ?? null },
      storeId: record?.id ?? null,
      readsAgain: one.reads_again === 1,
      ...{ days: readings(one.id), isLate: isLate(lastReadAt, readings(one.id), now) },
    };
  });
  const isConnected = new Set(connected.map(({ id }) => id));
  const others = told
    .filter(({ source }) => !isConnected.has(source))
    .map(({ source, record }): StoreKnown => {
      const days = readings(source);
      // Imports are counted by the day, not by the hour.
      const lastReadAt = days.length > 0 ? Math.min(now, seconds(`${days[0].day}T23:59:59Z`)) : null;
      return {
        ...{ id: source, name: shownName(record.name), isRead: false, url: null, lastReadAt, lastError: null },
        ...{ capabilities: record.capabilities, region: record.region ?? null, readsAgain: false },
        ...{ storeId: record.id, days, isLate: isLate(lastReadAt, days, now) },
      };
    });
  return [...connected, ...others];
}
