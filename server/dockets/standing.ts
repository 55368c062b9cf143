import type { DocketOrigin, DocketState } from "@/core/changes/states";
import type { Db, Reads } from "../platform/db/open";

/** So many are told of at once. */
const MOST = 20;

/** Dockets that are paused or done, with how much of each failed or could not be seen to have taken; the newest first. */
export function stuckDockets(db: Db): Promise<{ id: string; state: DocketState; failed: number; unchecked: number }[]> {
  return db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select((eb) => [
      "docket.id",
      "docket.state",
      eb.fn.countAll<number>().filterWhere("docket_change.state", "=", "failed").as("failed"),
      eb.fn
        .countAll<number>()
        .filterWhere("docket_change.state", "=", "done")
        .filterWhere("docket_change.checked", "=", 0)
        .as("unchecked"),
    ])
    .where("docket.state", "in", ["paused", "done"])
    .groupBy("docket.id")
    .orderBy("docket.made_at", "desc")
    .limit(MOST)
    .execute();
}

/** By docket: how many of its changes somebody has to do in a store themselves. */
export async function handWorkCounts(db: Db): Promise<{ docketId: string; count: number }[]> {
  const rows = await db
    .selectFrom("docket_change")
    .select((eb) => ["docket_id", eb.fn.countAll<number>().as("count")])
    .where("state", "=", "by-hand")
    .groupBy("docket_id")
    .execute();
  return rows.map(({ docket_id, count }) => ({ docketId: docket_id, count: Number(count) }));
}

/** Dockets that wait for an administrator, the oldest first. */
export async function waitingDockets(db: Db) {
  const rows = await db
    .selectFrom("docket")
    .select(["id", "words", "asked_by", "made_by"])
    .where("state", "=", "waiting")
    .orderBy("made_at")
    .execute();
  return rows.map(({ id, words, asked_by, made_by }) => ({ id, words, askedBy: asked_by, madeBy: made_by }));
}

/** Dockets of one origin that are being applied. */
export async function beingApplied(db: Reads, origin: DocketOrigin): Promise<string[]> {
  const dockets = await db
    .selectFrom("docket")
    .select("id")
    .where("origin", "=", origin)
    .where("state", "=", "applying")
    .execute();
  return dockets.map(({ id }) => id);
}

/** How many changes there are in dockets of one origin that were made after an instant. */
export async function changesSince(db: Reads, origin: DocketOrigin, after: string): Promise<number> {
  const { count } = await db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select((eb) => eb.fn.countAll<number>().as("count"))
    .where("docket.origin", "=", origin)
    .where("docket.made_at", ">", after)
    .executeTakeFirstOrThrow();
  return Number(count);
}

/** The docket that a change is in, and which share it is about; null where there is no such change. */
export async function docketOfChange(db: Reads, changeId: string) {
  const row = await db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select(["docket_id", "origin", "share_id"])
    .where("docket_change.id", "=", changeId)
    .executeTakeFirst();
  return row ? { id: row.docket_id, origin: row.origin, shareId: row.share_id } : null;
}
