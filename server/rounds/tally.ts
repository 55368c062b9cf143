import { isAmong } from "../platform/db/among";
import type { Reads } from "../platform/db/open";
import { type LineCounts, NO_LINES } from "./lines";

/** All that is counted of a round. The database does all the counting: a round has tens of thousands of deciders. */
export interface Tally {
  counts: LineCounts;
  changed: number;
  passed: number;
  /** How many people decide, and how many of them still have something to decide. */
  deciders: number;
  late: number;
  /** Lines without a decider. */
  nobodys: number;
  /** By the departments of those who decide, in the order of their names. */
  departments: { department: string; lines: number; decided: number }[];
}

/** Counts of a round's lines. */
export async function tallyOf(db: Reads, roundId: number): Promise<Tally> {
  const rows = await tallies(db, roundId)
    .select((eb) => [
      ...(["department", "state"] as const),
      eb.fn.sum<number>("lines").as("lines"),
      eb.fn.sum<number>("changed").as("changed"),
      eb.fn.sum<number>("passed").as("passed"),
    ])
    .groupBy(["department", "state"])
    .orderBy("department")
    .execute();
  const tally = { counts: { ...NO_LINES }, changed: 0, passed: 0 };
  const departments = new Map<string, Tally["departments"][number]>();
  for (const { department, state, lines, changed, passed } of rows) {
    const one = departments.get(department) ?? { department, lines: 0, decided: 0 };
    departments.set(department, one);
    one.lines += lines;
    if (state !== "open" && state !== "lapsed") one.decided += lines;
    tally.counts[state] += lines;
    tally.changed += changed;
    tally.passed += passed;
  }
  return { ...tally, ...(await people(db, roundId)), departments: [...departments.values()] };
}

/** Somebody who has lines in a round; “nobody” stands for lines without a decider. */
const NOBODY = "";

async function people(db: Reads, roundId: number): Promise<Pick<Tally, "deciders" | "late" | "nobodys">> {
  const row = await tallies(db, roundId)
    .select(({ fn }) => [
      fn.count<number>("decider").distinct().filterWhere("decider", "!=", NOBODY).as("deciders"),
      fn.countAll<number>().filterWhere("decider", "!=", NOBODY).filterWhere("state", "=", "open").as("late"),
      fn.sum<number | null>("lines").filterWhere("decider", "=", NOBODY).as("nobodys"),
    ])
    .executeTakeFirstOrThrow();
  return { ...row, nobodys: row.nobodys ?? 0 };
}

const tallies = (db: Reads, roundId: number) =>
  db.selectFrom("round_tally").where("round_id", "=", roundId).where("lines", ">", 0);

const byDecider = (db: Reads, roundId: number) =>
  tallies(db, roundId)
    .select(({ fn }) => [
      "decider",
      fn.sum<number>("lines").as("lines"),
      fn.sum<number | null>("lines").filterWhere("state", "=", "open").as("open"),
    ])
    .groupBy("decider");

/** How far a decider has come in a round. */
export interface Standing {
  person: string;
  lines: number;
  open: number;
}

/** Everybody who has lines in a round. */
export async function standings(db: Reads, roundId: number): Promise<Standing[]> {
  const rows = await byDecider(db, roundId).where("decider", "!=", NOBODY).execute();
  return rows.map(({ decider, lines, open }) => ({ person: decider, lines, open: open ?? 0 }));
}

/** How many lines of one decider are in each state. */
export interface DeciderTally {
  decider: string;
  name: string;
  department: string;
  lines: number;
  counts: LineCounts;
}

/** Some of the deciders, those with most left to decide first; and how many there are, counting “nobody” as one. */
export async function decidersFrom(
  db: Reads,
  roundId: number,
  page: { from: number; count: number },
): Promise<{ total: number; deciders: DeciderTally[] }> {
  const { total } = await tallies(db, roundId)
    .select(({ fn }) => fn.count<number>("decider").distinct().as("total"))
    .executeTakeFirstOrThrow();
  const found = await byDecider(db, roundId)
    .orderBy("open", (order) => order.desc().nullsLast())
    .orderBy("lines", "desc")
    .orderBy("decider")
    .limit(page.count)
    .offset(page.from)
    .execute();
  const deciders = new Map(
    found.map(({ decider, lines }) => [
      decider,
      { decider, name: "", department: "", lines, counts: { ...NO_LINES } } as DeciderTally,
    ]),
  );
  const rows = await tallies(db, roundId)
    .select(["decider", "name", "department", "state", "lines"])
    .where(isAmong("decider", [...deciders.keys()]))
    .execute();
  for (const { decider, name, department, state, lines } of rows) {
    const one = deciders.get(decider)!;
    Object.assign(one, { name, department });
    one.counts[state] += lines;
  }
  return { total, deciders: [...deciders.values()] };
}
