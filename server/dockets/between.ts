import type { Reads } from "../platform/db/open";

/** Dockets that were applied, and went on at some time from one instant up to another, in the order of their making. */
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

/** What came of each change of a docket, in their order. */
export function receiptsOf(db: Reads, docketId: string) {
  return db
    .selectFrom("docket_change")
    .select(["id", "docket_id", "share_id", "store_id", "item_name", "audience", "body", "state"])
    .select(["sent_at", "answered_at", "answer", "probe", "probed_at", "undone_in"])
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
}
