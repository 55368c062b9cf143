import { changeSchema } from "@/core/dockets/change";
import type { Receipt, StagedChange } from "@/core/dockets/progress";
import type { Db } from "../db/open";
import type { DocketChangeTable } from "../db/schema";

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
export async function receiptsOf(db: Db, docketId: string): Promise<Receipt[]> {
  const rows = await db
    .selectFrom("docket_change")
    .selectAll()
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
  return rows.map((row) => ({
    ...stagedChange(row),
    state: row.state,
    tries: row.tries,
    sentAt: row.sent_at,
    answeredAt: row.answered_at,
    answer: row.answer,
    probe: row.probe,
  }));
}

/** A change as it was staged, from its row. */
export function stagedChange(
  row: Pick<DocketChangeTable, "subject" | "item_name" | "audience" | "body">,
): StagedChange {
  return {
    subject: row.subject,
    itemName: row.item_name,
    audience: row.audience,
    change: changeSchema.parse(JSON.parse(row.body)),
  };
}
