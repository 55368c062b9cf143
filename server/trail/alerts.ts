import { MOST_ALERTS } from "@/contract/alerts";
import type { AlertState } from "@/core/trail/watch";
import type { Alert } from "@/core/trail/alert";
import type { Db, Reads, Tx } from "../platform/db/open";
import { canSignIn } from "../people";
import { appendWithin } from "../records/ledger/ledger";

/** Alerts in some states, those of more weight first, the newest before the older. */
export async function alerts(db: Db, states: readonly AlertState[]): Promise<Alert[]> {
  const rows = await withNames(db)
    .where("alert.state", "in", states)
    .orderBy((eb) => eb.case("alert.severity").when("urgent").then(0).when("high").then(1).else(2).end())
    .orderBy("alert.last_at", "desc")
    .orderBy("alert.id", "desc")
    .limit(MOST_ALERTS)
    .execute();
  return rows.map(alertFrom);
}

export async function alertOf(db: Reads, id: number): Promise<Alert | null> {
  const row = await withNames(db).where("alert.id", "=", id).executeTakeFirst();
  return row ? alertFrom(row) : null;
}

function withNames(db: Reads) {
  return db
    .selectFrom("alert")
    .leftJoin("watch", "watch.id", "alert.watch_id")
    .selectAll("alert")
    .select("watch.name as watch_name");
}

type Row = Awaited<ReturnType<ReturnType<typeof withNames>["executeTakeFirstOrThrow"]>>;

function alertFrom(row: Row): Alert {
  return {
    id: row.id,
    watch: row.watch_name,
    severity: row.severity,
    state: row.state,
    firstAt: row.first_at,
    lastAt: row.last_at,
    count: row.count,
    shareId: row.share_id,
    itemId: row.item_id,
    person: row.person,
    words: row.words,
    assignedTo: row.assigned_to,
    settledBy: row.settled_by,
    settledAt: row.settled_at,
    note: row.note,
  };
}

/** Marks as seen what is new. @returns whether it was */
export async function markSeen(tx: Tx, id: number): Promise<boolean> {
  const { numUpdatedRows } = await tx
    .updateTable("alert")
    .set({ state: "seen" })
    .where("id", "=", id)
    .where("state", "=", "new")
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}

/** Settles an alert, or opens it again; the ledger says so. @returns false where there is no such alert */
export async function settle(tx: Tx, actor: string, id: number, note: string | null): Promise<boolean> {
  const isSettled = note !== null;
  const alert = await tx
    .updateTable("alert")
    .set({
      state: isSettled ? "settled" : "seen",
      settled_by: isSettled ? actor : null,
      settled_at: isSettled ? tx.clock.text() : null,
      note,
    })
    .where("id", "=", id)
    .returning(["words", "share_id"])
    .executeTakeFirst();
  if (!alert) return false;
  await appendWithin(tx, actor, isSettled ? "alert-settled" : "alert-reopened", {
    alert: id,
    what: alert.words,
    share: alert.share_id,
    note,
  });
  return true;
}

/** Gives an alert to somebody who may sign in, or to nobody. @returns false where there is no such alert or person */
export async function assign(tx: Tx, actor: string, id: number, to: string | null): Promise<boolean> {
  const known = to === null || (await canSignIn(tx, to));
  if (!known) return false;
  const alert = await tx
    .updateTable("alert")
    .set({ assigned_to: to })
    .where("id", "=", id)
    .returning("words")
    .executeTakeFirst();
  if (!alert) return false;
  await appendWithin(tx, actor, "alert-assigned", { alert: id, what: alert.words, to });
  return true;
}

/** How many alerts nobody has looked at. */
export async function newAlerts(db: Db): Promise<number> {
  const { count } = await db
    .selectFrom("alert")
    .select((eb) => eb.fn.countAll<number>().as("count"))
    .where("state", "=", "new")
    .executeTakeFirstOrThrow();
  return Number(count);
}
