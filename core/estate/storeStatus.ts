import { HOUR, type Seconds } from "../time/instant";

/** The state of reading one store. */
export interface StoreStatus {
  id: string;
  name: string;
  /** Records read in the first reading. */
  records: number;
  lastReadAt: string | null;
  /** Why the last reading failed, or null. */
  lastError: string | null;
}

/** What came of the readings of a store on one day of UTC. */
export interface ReadingDay {
  day: string;
  readings: number;
  records: number;
  errors: number;
  /** The longest time before a reading of that day in which nothing was read, in seconds. */
  gap: Seconds;
}

/** A store that is read several times a day isn’t late if it was read within this time. */
const LEAST_LATE: Seconds = 2 * HOUR;

/**
 * Whether a store hasn’t been read for longer than is usual for it: for twice the median of its longest daily gaps.
 * For one that has hardly been read yet, nothing is usual.
 * @param lastAt when it was last read; null if never
 */
export function isLate(lastAt: Seconds | null, days: readonly ReadingDay[], now: Seconds): boolean {
  const gaps = days.map(({ gap }) => gap).filter((gap) => gap > 0);
  if (lastAt === null || gaps.length < 2) return false;
  const median = gaps.sort((a, b) => a - b)[Math.floor(gaps.length / 2)];
  return now - lastAt > Math.max(LEAST_LATE, 2 * median);
}
