import type { Db } from "../platform/db/open";
import type { ToldAlert } from "../messages/message";

/** Alerts as messages tell of them. */
export async function toldAlerts(db: Db, ids: readonly number[]): Promise<ToldAlert[]> {
  const alerts = await db
    .selectFrom("alert")
    .leftJoin("watch", "watch.id", "alert.watch_id")
    .select(["alert.id", "alert.severity", "alert.words", "alert.last_at", "alert.count", "watch.name"])
    .where("alert.id", "in", ids)
    .orderBy("alert.id")
    .execute();
  return alerts.map(({ id, severity, words, last_at, count, name }) => {
    return { id, severity, words, at: last_at, count, watch: name ?? "a deleted watch" };
  });
}
