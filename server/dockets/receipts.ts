import { changeSchema } from "@/core/dockets/change";
import type { DocketView, Receipt, StagedChange } from "@/core/dockets/progress";
import { RequestError } from "../auth/requestError";
import type { Db } from "../db/open";
import type { DocketChangeTable } from "../db/schema";
import { engine } from "../engine/client";
import { docketProgress } from "./docketProgress";

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
    .leftJoin("passphrase", "passphrase.change_id", "docket_change.id")
    .leftJoin("docket as undo", "undo.id", "docket_change.undone_in")
    .selectAll("docket_change")
    .select(["passphrase.sealed", "undo.state as undoState"])
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
    request: row.body,
    response: row.answered,
    undoneIn: row.undoState === "dropped" ? null : row.undone_in,
    passphrase: row.state === "done" && row.sealed !== null ? row.id : null,
  }));
}

/** A docket as its page shows it. @throws {RequestError} where there is none */
export async function docketView(db: Db, docketId: string): Promise<DocketView> {
  const docket = await db.selectFrom("docket").selectAll().where("id", "=", docketId).executeTakeFirst();
  if (!docket) throw new RequestError(404, "There is no such docket.");
  const receipts = await receiptsOf(db, docketId);
  const changes = receipts.map(({ change }) => change);
  return {
    progress: await docketProgress(db, docketId),
    origin: docket.origin,
    madeBy: docket.made_by,
    words: docket.words,
    receipts,
    preview: docket.state === "waiting" ? await engine().ask("preview", { changes }) : null,
  };
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
