import { type NotNull, sql } from "kysely";
import type { Action } from "@/core/changes/change";
import { isAmong } from "../platform/db/among";
import type { Reads } from "../platform/db/open";

/** Applied dockets that were going on at any time between two instants, in the order in which they were made. */
export function docketsBetween(db: Reads, from: string, to: string) {
  return db
    .selectFrom("docket")
    .select(["id", "state", "origin", "name", "reason", "words"])
    .select(["made_by", "made_at", "asked_by", "approved_by", "applied_by", "applied_at", "finished_at"])
    .where("applied_at", "<=", to)
    .where((eb) => eb.or([eb("finished_at", "is", null), eb("finished_at", ">=", from)]))
    .orderBy("made_at")
    .orderBy("id")
    .execute();
}

/** The outcome of each change of a docket, in order. */
export function receiptsOf(db: Reads, docketId: string) {
  return db
    .selectFrom("docket_change")
    .select(["id", "docket_id", "share_id", "store_id", "item_name", "audience", "body", "state"])
    .select(["sent_at", "answered_at", "answer", "probe", "probed_at", "undone_in"])
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
}

/** How many changes took effect between two instants, by kind and by who applied them; the most first. */
export async function changesDone(db: Reads, from: string, to: string) {
  const rows = await db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select((eb) => [
      sql<Action>`json_extract(docket_change.body, '$.action')`.as("action"),
      "docket.applied_by",
      eb.fn.countAll<number>().as("count"),
    ])
    .where("docket_change.state", "=", "done")
    .where("answered_at", ">=", from)
    .where("answered_at", "<=", to)
    .groupBy(["action", "docket.applied_by"])
    .orderBy("count", "desc")
    .orderBy("action")
    .execute();
  return rows.map(({ action, applied_by, count }) => ({ action, by: applied_by, count: Number(count) }));
}

/** Shares that dockets revoked between two instants, the latest first, with when and who applied it. */
export function revokedBetween(db: Reads, from: string, to: string) {
  return db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select(["share_id", "item_name", "answered_at", "docket.applied_by as by"])
    .where("docket_change.state", "=", "done")
    .where(sql<boolean>`json_extract(docket_change.body, '$.action') = 'revoke'`)
    .where("answered_at", ">=", from)
    .where("answered_at", "<=", to)
    .where("share_id", "is not", null)
    .$narrowType<{ share_id: NotNull; answered_at: NotNull }>()
    .orderBy("answered_at", "desc")
    .execute();
}

/** How many changes some dockets have, by kind and outcome; the most first. */
export async function changesOf(db: Reads, dockets: readonly string[]) {
  const rows = await db
    .selectFrom("docket_change")
    .select((eb) => [
      sql<Action>`json_extract(body, '$.action')`.as("action"),
      "state",
      eb.fn.countAll<number>().as("count"),
    ])
    .where(isAmong("docket_id", dockets))
    .groupBy(["action", "state"])
    .orderBy("count", "desc")
    .orderBy("action")
    .execute();
  return rows.map(({ action, state, count }) => ({ action, state, count: Number(count) }));
}
