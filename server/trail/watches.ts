import { v7 as uuid } from "uuid";
import type { SavedWatch, WatchLine } from "@/core/trail/savedWatch";
import { type Watch, watchSchema } from "@/core/trail/watch";
import type { Seconds } from "@/core/time/instant";
import type { Db, Reads, Tx } from "../platform/db/open";
import type { WatchTable } from "../platform/db/schema";
import { countNotices } from "../messages/outbox";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";

export async function watches(db: Reads): Promise<SavedWatch[]> {
  return (await db.selectFrom("watch").selectAll().orderBy("name").execute()).map(savedFrom);
}

export async function watchesOn(db: Reads): Promise<SavedWatch[]> {
  return (await db.selectFrom("watch").selectAll().where("is_on", "=", 1).orderBy("id").execute()).map(savedFrom);
}

function savedFrom({ id, name, body, is_on, since, made_by }: WatchTable): SavedWatch {
  return { id, name, watch: watchSchema.parse(JSON.parse(body)), isOn: is_on === 1, since, madeBy: made_by };
}

/** Keeps a watch, new or changed. One that is switched on looks at what comes from then on. */
export async function saveWatch(
  tx: Tx,
  actor: string,
  given: { id?: string; name: string; watch: Watch; isOn: boolean; since?: Seconds },
): Promise<string> {
  const before = given.id === undefined ? undefined : (await watches(tx)).find(({ id }) => id === given.id);
  const id = before?.id ?? uuid();
  const since = before?.isOn && given.isOn ? before.since : (given.since ?? tx.clock.seconds());
  const row = { name: given.name, body: JSON.stringify(given.watch), is_on: Number(given.isOn), since };
  await tx
    .insertInto("watch")
    .values({ id, ...row, made_by: actor, made_at: tx.clock.text() })
    .onConflict((conflict) => conflict.column("id").doUpdateSet(row))
    .execute();
  await appendWithin(tx, actor, before ? "watch-changed" : "watch-made", {
    watch: given.name,
    on: given.isOn,
    severity: given.watch.severity,
  });
  return id;
}

/** Switches some watches on or off; those that are so already stay as they are. @throws {Problem} where one is gone */
export async function turnWatches(tx: Tx, actor: string, ids: readonly string[], isOn: boolean): Promise<void> {
  const kept = new Map((await watches(tx)).map((one) => [one.id, one]));
  for (const id of new Set(ids)) {
    const one = kept.get(id);
    if (!one) throw new Problem("unknown", "One of these watches no longer exists. Nothing was changed.");
    if (one.isOn !== isOn) await saveWatch(tx, actor, { ...one, isOn, since: undefined });
  }
}

/** Ends a watch. Its alerts stay. @returns whether there was one */
export async function dropWatch(tx: Tx, actor: string, id: string): Promise<boolean> {
  const gone = await tx.deleteFrom("watch").where("id", "=", id).returning("name").executeTakeFirst();
  if (!gone) return false;
  await tx.deleteFrom("watch_hit").where("watch_id", "=", id).execute();
  await appendWithin(tx, actor, "watch-dropped", { watch: gone.name });
  return true;
}

/** Watches with what became of them: alerts that are not settled, messages held for a digest, and those set aside. */
export async function watchList(db: Db): Promise<WatchLine[]> {
  const open = await openAlerts(db);
  const held = await countNotices(db, "held");
  const aside = await countNotices(db, "aside");
  return (await watches(db)).map((kept) => ({
    ...kept,
    open: open.get(kept.id) ?? 0,
    held: held.get(kept.id) ?? 0,
    aside: aside.get(kept.id) ?? 0,
  }));
}

/** By watch: how many of its alerts are not settled. */
async function openAlerts(db: Db): Promise<Map<string, number>> {
  const rows = await db
    .selectFrom("alert")
    .select((eb) => ["watch_id", eb.fn.countAll<number>().as("count")])
    .where("state", "in", ["new", "seen"])
    .groupBy("watch_id")
    .execute();
  return new Map(rows.map(({ watch_id, count }) => [watch_id, Number(count)]));
}
