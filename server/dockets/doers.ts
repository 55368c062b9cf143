import type { Reads } from "../platform/db/open";

/** By key of a change: who made, approved or applied its docket. */
export async function doersOf(db: Reads, changes: readonly string[]): Promise<Map<string, Set<string>>> {
  const rows = await db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select(["docket_change.id", "made_by", "asked_by", "approved_by", "applied_by"])
    .where("docket_change.id", "in", changes)
    .execute();
  return new Map(rows.map(({ id, ...people }) => [id, new Set(Object.values(people).filter((one) => one !== null))]));
}

/** Which of some keys belong to changes of applied dockets. */
export async function sentAmong(db: Reads, changes: readonly string[]): Promise<Set<string>> {
  const rows = await db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select("docket_change.id")
    .where("docket_change.id", "in", changes)
    .where("docket.state", "in", ["applying", "paused", "done"])
    .execute();
  return new Set(rows.map(({ id }) => id));
}
