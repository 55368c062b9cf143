import type { Selectable } from "kysely";
import { type Seconds, seconds, utcDay } from "@/core/time/instant";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import type { ReadingDayTable } from "../platform/db/schema";
import type { Connection } from "./connections";

/**
 * Counts a reading on its day, so that it can be told whether what is known is complete.
 * @param connection as it was before the reading
 */
export function countReading(
  db: Db,
  { id, last_read_at }: Connection,
  result: { changed: number; error?: string },
): Promise<void> {
  const before = last_read_at === null ? null : seconds(last_read_at);
  return writing(db, (tx) => countWithin(tx, { source: id, before, ...result }));
}

/** The same for any source, in the transaction that reads it. @param told `before` when it was read last */
export async function countWithin(
  tx: Tx,
  { source, before, changed, error }: { source: string; before: Seconds | null; changed: number; error?: string },
): Promise<void> {
  const now = tx.clock.seconds();
  const gap = before === null ? 0 : Math.max(0, now - before);
  const row = {
    store: source,
    day: utcDay(now),
    readings: 1,
    records: changed,
    errors: error === undefined ? 0 : 1,
    gap,
  };
  await tx
    .insertInto("reading_day")
    .values(row)
    .onConflict((conflict) =>
      conflict.columns(["store", "day"]).doUpdateSet((eb) => ({
        readings: eb("reading_day.readings", "+", 1),
        records: eb("reading_day.records", "+", row.records),
        errors: eb("reading_day.errors", "+", row.errors),
        gap: eb.fn("max", ["reading_day.gap", eb.val(gap)]),
      })),
    )
    .execute();
}

/** By store and day, from a day to another, both in. */
export function readingDays(db: Reads, from: string, to: string): Promise<Selectable<ReadingDayTable>[]> {
  return db
    .selectFrom("reading_day")
    .selectAll()
    .where("day", ">=", from)
    .where("day", "<=", to)
    .orderBy("store")
    .orderBy("day")
    .execute();
}
