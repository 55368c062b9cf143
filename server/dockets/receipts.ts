import type { Db } from "../db/open";

/** Dockets that have been applied, newest first. */
export function appliedDockets(db: Db) {
  return db
    .selectFrom("docket")
    .selectAll()
    .where("state", "!=", "preparing")
    .orderBy("applied_at", "desc")
    .orderBy("id", "desc")
    .limit(200)
    .execute();
}

/** Every change of a docket with what came of it. */
export function receiptsOf(db: Db, docketId: string) {
  return db.selectFrom("docket_change").selectAll().where("docket_id", "=", docketId).orderBy("position").execute();
}
