import type { Seconds } from "@/core/time/instant";
import type { Reads } from "../platform/db/open";
import { roundLines } from "./view";

/** A round that is open, as the Desk tells of it. */
export interface RoundNow {
  id: number;
  name: string;
  closes: Seconds;
  lines: number;
  open: number;
  late: number;
}

/** The rounds that are open now, the one that closes first at the head. */
export async function roundsNow(db: Reads): Promise<RoundNow[]> {
  const open = (await roundLines(db)).filter(({ state }) => state === "open");
  return open
    .map(({ id, name, closes, lines, counts, late }) => ({ id, name, closes, lines, open: counts.open ?? 0, late }))
    .sort((a, b) => a.closes - b.closes);
}
