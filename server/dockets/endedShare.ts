import { isAmong } from "../platform/db/among";
import type { Reads } from "../platform/db/open";

/** How one of our dockets ended a share; undefined where none did. */
export interface EndedBy {
  docketId: string;
  by: string;
  endedAt: string | null;
  itemName: string;
  audience: string;
}

/** The docket that ended a share last. */
export function endedBy(db: Reads, shareId: string): Promise<EndedBy | undefined> {
  return db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select((eb) => [
      "docket_id as docketId",
      eb.fn.coalesce("applied_by", "made_by").as("by"),
      "answered_at as endedAt",
      "item_name as itemName",
      "audience",
    ])
    .where("share_id", "=", shareId)
    .where("subject", "=", shareId)
    .where("docket_change.state", "=", "done")
    .orderBy("answered_at", "desc")
    .limit(1)
    .executeTakeFirst();
}

/** By share id: who last ended it by one of our dockets. */
export async function endersOf(db: Reads, shareIds: readonly string[]): Promise<Map<string, string>> {
  const rows = await db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select((eb) => ["share_id as id", eb.fn.coalesce("applied_by", "made_by").as("by")])
    .where(isAmong("share_id", shareIds))
    .whereRef("subject", "=", "share_id")
    .where("docket_change.state", "=", "done")
    .orderBy("answered_at")
    .execute();
  return new Map(rows.map(({ id, by }) => [id!, by]));
}
