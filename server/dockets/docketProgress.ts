import { CHANGE_STATES, type ChangeState, type DocketProgress } from "@/core/changes/states";
import type { Db } from "../platform/db/open";
import { Problem } from "../platform/problem";

export const noSuchDocket = () => new Problem("unknown", "There is no such docket. The ledger lists them all.");

/** How far a docket is. @throws {Problem} where there is none */
export async function docketProgress(db: Db, docketId: string): Promise<DocketProgress> {
  const docket = await db.selectFrom("docket").select("state").where("id", "=", docketId).executeTakeFirst();
  if (!docket) throw noSuchDocket();
  const rows = await db
    .selectFrom("docket_change")
    .select((eb) => ["state", eb.fn.countAll<number>().as("count")])
    .where("docket_id", "=", docketId)
    .groupBy("state")
    .execute();
  const counts = Object.fromEntries(CHANGE_STATES.map((state) => [state, 0])) as Record<ChangeState, number>;
  for (const { state, count } of rows) counts[state] = Number(count);
  const { unchecked } = await db
    .selectFrom("docket_change")
    .select((eb) => eb.fn.countAll<number>().as("unchecked"))
    .where("docket_id", "=", docketId)
    .where("state", "=", "done")
    .where("checked", "=", 0)
    .executeTakeFirstOrThrow();
  return { docketId, state: docket.state, counts, unchecked: Number(unchecked), held: [] };
}

/** The outcome of the first change of a docket that wasn't made; null where none was tried, or all were made. */
export async function firstUndone(db: Db, docketId: string): Promise<string | null> {
  const row = await db
    .selectFrom("docket_change")
    .select("answer")
    .where("docket_id", "=", docketId)
    .where("state", "!=", "done")
    .orderBy("position")
    .executeTakeFirst();
  return row?.answer ?? null;
}
