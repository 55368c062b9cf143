import type { Seconds } from "@/core/time/instant";
import type { Reads } from "../platform/db/open";
import { roundLines } from "./view";

/** An open round, as the Desk shows it. */
export interface RoundNow {
  id: number;
  name: string;
  closes: Seconds;
  lines: number;
  open: number;
  late: number;
}

/** The rounds that are open now, in the order in which they close. */
export async function roundsNow(db: Reads): Promise<RoundNow[]> {
  const open = (await roundLines(db)).filter(({ state }) => state === "open");
  return open
    .map(({ id, name, closes, lines, counts, late }) => ({ id, name, closes, lines, open: counts.open ?? 0, late }))
    .sort((a, b) => a.closes - b.closes);
}
