import type { Reads } from "../platform/db/open";
import { type LineCounts, NO_LINES } from "./lines";

/** How many lines of one decider are in each state. */
interface DeciderTally {
  decider: string;
  name: string;
  department: string;
  lines: number;
  counts: LineCounts;
}

/** All that is counted of a round. */
export interface Tally {
  deciders: DeciderTally[];
  counts: LineCounts;
  changed: number;
  passed: number;
}

/** What has been counted of a round's lines. */
export async function tallyOf(db: Reads, roundId: number): Promise<Tally> {
  const rows = await db
    .selectFrom("round_tally")
    .selectAll()
    .where("round_id", "=", roundId)
    .where("lines", ">", 0)
    .execute();
  const byDecider = new Map<string, DeciderTally>();
  const tally: Tally = { deciders: [], counts: { ...NO_LINES }, changed: 0, passed: 0 };
  for (const { decider, state, name, department, lines, changed, passed } of rows) {
    const one = byDecider.get(decider) ?? { decider, name, department, lines: 0, counts: { ...NO_LINES } };
    byDecider.set(decider, one);
    one.counts[state] += lines;
    one.lines += lines;
    tally.counts[state] += lines;
    tally.changed += changed;
    tally.passed += passed;
  }
  tally.deciders = [...byDecider.values()];
  return tally;
}
