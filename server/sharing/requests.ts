import type { Selectable } from "kysely";
import type { GivenWaiver, RequestState, ShareRequest } from "@/core/sharing/request";
import { wishSchema } from "@/core/sharing/wish";
import type { Db, Reads, Tx } from "../platform/db/open";
import type { ShareRequestTable } from "../platform/db/schema";
import { Problem } from "../platform/problem";
import { shownName } from "@/core/text/shown";

const MOST_SHOWN = 500;

export type RequestRow = Selectable<ShareRequestTable>;

/** Requests, the newest first: all, or somebody's own. */
export async function requests(db: Db, by: string | null): Promise<ShareRequest[]> {
  const rows = await db
    .selectFrom("share_request")
    .selectAll()
    .$if(by !== null, (query) => query.where("asked_by", "=", by!))
    .orderBy("asked_at", "desc")
    .orderBy("id", "desc")
    .limit(MOST_SHOWN)
    .execute();
  return rows.map(requestFrom);
}

/** @throws {Problem} where there is none */
export async function requestRow(db: Reads, id: string): Promise<RequestRow> {
  const row = await db.selectFrom("share_request").selectAll().where("id", "=", id).executeTakeFirst();
  if (!row) throw new Problem("unknown", "There is no such request. Reload the list.");
  return row;
}

export async function requestOf(db: Reads, id: string): Promise<ShareRequest> {
  return requestFrom(await requestRow(db, id));
}

export function requestFrom(row: RequestRow): ShareRequest {
  return {
    ...{ id: row.id, itemName: shownName(row.item_name), why: row.why, askedBy: row.asked_by, askedAt: row.asked_at },
    ...{ state: row.state, word: row.word, decidedBy: row.decided_by, decidedAt: row.decided_at, dueAt: row.due_at },
    ...{ docketId: row.docket_id, shares: JSON.parse(row.shares) as string[] },
    ...{ wish: wishSchema.parse(JSON.parse(row.wish)), waivers: JSON.parse(row.waivers) as GivenWaiver[] },
  };
}

/** Moves a request to another state. @throws {Problem} where its present state doesn't allow it */
export async function moveRequest(
  tx: Tx,
  id: string,
  from: readonly RequestState[],
  values: Partial<Omit<RequestRow, "id">>,
): Promise<void> {
  const { numUpdatedRows } = await tx
    .updateTable("share_request")
    .set(values)
    .where("id", "=", id)
    .where("state", "in", from)
    .executeTakeFirst();
  if (numUpdatedRows === 0n)
    throw new Problem("conflict", "Somebody has decided about this request already. Reload it.");
}

/** How many wait for an administrator. */
export async function countAsked(db: Reads): Promise<number> {
  const { count } = await db
    .selectFrom("share_request")
    .select((eb) => eb.fn.countAll<number>().as("count"))
    .where("state", "=", "asked")
    .executeTakeFirstOrThrow();
  return Number(count);
}
