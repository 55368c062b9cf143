import type { KeptWatch } from "@/core/trail/keptWatch";
import { actWords } from "@/core/trail/sentence";
import type { Act } from "@/core/trail/act";
import type { Seconds } from "@/core/time/instant";
import type { ActWatch } from "@/core/trail/watch";
import { type Hits, ONE_ALERT_S, Watching } from "@/core/trail/watching";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { tell } from "../messages/telling";
import { watchesOn } from "./watches";

type OnActs = KeptWatch & { watch: ActWatch };

/** Lets every watch look at acts that have just come, in their order. @returns how many alerts are new */
export async function raise(db: Tx, acts: readonly Act[]): Promise<number> {
  if (acts.length === 0) return 0;
  const verbs = new Set(acts.map(({ verb }) => verb));
  let alerts = 0;
  for (const kept of await watchesOn(db)) {
    if (kept.watch.kind !== "acts") continue;
    const { search } = kept.watch;
    // Most watches are for seldom verbs.
    if (search.verbs.length === 0 || search.verbs.some((verb) => verbs.has(verb)))
      alerts += await raiseBy(db, kept as OnActs, acts);
  }
  return alerts;
}

async function raiseBy(db: Tx, kept: OnActs, acts: readonly Act[]): Promise<number> {
  const { id, watch, since } = kept;
  const { verbs } = watch.search;
  const due = acts.filter(({ at, verb }) => at >= since && (verbs.length === 0 || verbs.includes(verb)));
  if (due.length === 0) return 0;
  const watching = new Watching(watch, watch.many ? await hitsOf(db, kept, due) : undefined);
  let alerts = 0;
  for (const act of due) {
    const seen = watching.look(act);
    if (!seen) continue;
    const { key, raises } = seen;
    if (watch.many) await db.insertInto("watch_hit").values({ watch_id: id, key, at: act.at, seq: act.seq }).execute();
    if (raises && (await raiseOne(db, kept, act, key))) alerts++;
  }
  return alerts;
}

/** Acts that counted already and may lie in one window with these. */
async function hitsOf(db: Reads, { id, watch }: OnActs, acts: readonly Act[]): Promise<Hits> {
  const earliest = acts.reduce((least, { at }) => Math.min(least, at), Infinity) - watch.many!.seconds;
  const rows = await db
    .selectFrom("watch_hit")
    .select(["key", "at"])
    .where("watch_id", "=", id)
    .where("at", ">", earliest)
    .orderBy("key")
    .orderBy("at")
    .execute();
  const hits: Hits = new Map();
  for (const { key, at } of rows) hits.set(key, [...(hits.get(key) ?? []), at]);
  return hits;
}

/** @returns whether it is an alert of its own, and does not belong to one that there is */
async function raiseOne(db: Tx, kept: OnActs, act: Act, key: string): Promise<boolean> {
  const { id } = kept;
  const open = await db
    .selectFrom("alert")
    .select(["id", "count", "last_at"])
    .where("watch_id", "=", id)
    .where("key", "=", key)
    .where("first_at", ">", act.at - ONE_ALERT_S)
    .where("first_at", "<", act.at + ONE_ALERT_S)
    .where("state", "!=", "settled")
    .orderBy("first_at", "desc")
    .executeTakeFirst();
  if (open) {
    await db
      .updateTable("alert")
      .set({ count: open.count + 1, last_at: Math.max(open.last_at, act.at), last_seq: act.seq })
      .where("id", "=", open.id)
      .execute();
    return false;
  }
  await newAlert(db, kept, {
    key,
    at: act.at,
    seq: act.seq,
    share: act.share?.key ?? null,
    item: act.item?.key ?? null,
    person: act.who?.people?.[0] ?? null,
    words: actWords(act),
  });
  return true;
}

export interface AlertBegun {
  key: string;
  at: Seconds;
  /** The act that raised it; null where it is something that has not happened. */
  seq: number | null;
  share: string | null;
  item: string | null;
  person: string | null;
  words: string;
}

/**
 * Raises an alert about nothing that happened in a store.
 * @param watch the one that raises it; asked for only where the alert is new
 * @returns false where one of that key was raised already
 */
export async function raiseOnce(
  db: Db,
  watch: () => Promise<KeptWatch>,
  { key, at, words }: Pick<AlertBegun, "key" | "at" | "words">,
): Promise<boolean> {
  const known = await db.selectFrom("alert").select("id").where("key", "=", key).executeTakeFirst();
  if (known) return false;
  const kept = await watch();
  const nothing = { seq: null, share: null, item: null, person: null };
  await writing(db, (within) => newAlert(within, kept, { key, at, words, ...nothing }));
  return true;
}

/** Keeps a new alert, and puts down who is to be told of it. */
export async function newAlert(db: Tx, kept: KeptWatch, begun: AlertBegun) {
  const { id } = await db
    .insertInto("alert")
    .values({
      watch_id: kept.id,
      key: begun.key,
      severity: kept.watch.severity,
      state: "new",
      first_at: begun.at,
      last_at: begun.at,
      raised_at: db.clock.text(),
      count: 1,
      first_seq: begun.seq,
      last_seq: begun.seq,
      share_id: begun.share,
      item_id: begun.item,
      person: begun.person,
      words: begun.words,
      assigned_to: null,
      settled_by: null,
      settled_at: null,
      note: null,
    })
    .returning("id")
    .executeTakeFirstOrThrow();
  await tell(db, kept, id, begun.at);
}
