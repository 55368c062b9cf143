import type { LineState } from "@/core/rounds/line";
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

/** Counts a round's lines, in one pass over its index. */
export async function tallyOf(db: Reads, roundId: number): Promise<Tally> {
  const rows = await db
    .selectFrom("round_line")
    .select((eb) => [
      ...(["decider", "state"] as const),
      eb.fn.max("department").as("department"),
      eb.fn.max("decider_name").as("name"),
      eb.fn.countAll<number>().as("count"),
      eb.fn.count<number>("changed_at").as("changed"),
      eb.fn.countAll<number>().filterWhere("passed_from", "!=", "").as("passed"),
    ])
    .where("round_id", "=", roundId)
    .groupBy(["decider", "state"])
    .execute();
  const byDecider = new Map<string, DeciderTally>();
  const tally: Tally = { deciders: [], counts: { ...NO_LINES }, changed: 0, passed: 0 };
  for (const { decider, state, name, department, count, changed, passed } of rows) {
    const one = byDecider.get(decider) ?? { decider, name, department, lines: 0, counts: { ...NO_LINES } };
    byDecider.set(decider, one);
    add(one.counts, state, Number(count));
    one.lines += Number(count);
    add(tally.counts, state, Number(count));
    tally.changed += Number(changed);
    tally.passed += Number(passed);
  }
  tally.deciders = [...byDecider.values()];
  return tally;
}

function add(counts: LineCounts, state: LineState, count: number) {
  counts[state] += count;
}
