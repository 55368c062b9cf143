import type { OutsideCount } from "@/core/access/history";
import type { Db } from "../platform/db/open";
import { factSign } from "../records/facts";
import type { Mark } from "../records/marks";
import { readColumnFile, writeColumnFile } from "./columnFile";
import type { Keeping } from "./snapshot";

/** Up to where the past has been learned. */
export interface Seen {
  mark: Mark;
  event: number;
  belief: string;
}

/** Days that were counted, by what was known then. */
interface Days {
  seen: Seen;
  counts: OutsideCount[];
}

interface DaysFile extends Days {
  /** Identifies the last fact by which they were counted, which differs in another database. */
  lastFact: string;
  build: string;
}

/**
 * The days that were counted before the last start, so that nobody waits for them to be counted again. They are only ever
 * a copy: a file that is missing, broken, of another database or of another build is passed over.
 */
export async function readDays(db: Db, { path, build }: Keeping): Promise<Days | null> {
  const kept = (await readColumnFile(path)) as DaysFile | null;
  if (kept?.build !== build || kept.lastFact !== (await factSign(db, kept.seen.mark.fact))) return null;
  return { seen: kept.seen, counts: kept.counts };
}

export async function writeDays(db: Db, { path, build }: Keeping, { seen, counts }: Days): Promise<void> {
  const lastFact = await factSign(db, seen.mark.fact);
  if (lastFact === null) return;
  const kept: DaysFile = { seen, counts, lastFact, build };
  await writeColumnFile(path, kept);
}
