import type { SavedWatch } from "@/core/trail/savedWatch";
import { eventWords } from "@/core/trail/sentence";
import type { FreshEvent, TrailEvent } from "@/core/trail/event";
import type { Seconds } from "@/core/time/instant";
import type { EventWatch } from "@/core/trail/watch";
import { type Hits, ONE_ALERT_S, Watching } from "@/core/trail/watching";
import { doersOf } from "../dockets/doers";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { tell, tellsOnly } from "../messages/telling";
import { watchesOn } from "./watches";

type OnEvents = SavedWatch & { watch: EventWatch };

/** An event with those who caused it by a docket; nobody if it wasn't ours. */
type Seen = FreshEvent & { doers: ReadonlySet<string> };
const NOBODY: ReadonlySet<string> = new Set();

/** Lets every watch look at events that have just come, in their order. @returns how many alerts are new */
export async function raise(db: Tx, fresh: readonly FreshEvent[]): Promise<number> {
  if (fresh.length === 0) return 0;
  const ours = fresh.flatMap(({ change }) => change ?? []);
  const doers = ours.length > 0 ? await doersOf(db, ours) : new Map<string, Set<string>>();
  const events = fresh.map((event) => ({ ...event, doers: doers.get(event.change ?? "") ?? NOBODY }));
  const verbs = new Set(events.map(({ verb }) => verb));
  let alerts = 0;
  for (const kept of await watchesOn(db)) {
    if (kept.watch.kind !== "events") continue;
    const { search } = kept.watch;
    // Most watches are for seldom verbs.
    if (search.verbs.length === 0 || search.verbs.some((verb) => verbs.has(verb)))
      alerts += await raiseBy(db, kept as OnEvents, events);
  }
  return alerts;
}

async function raiseBy(db: Tx, kept: OnEvents, events: readonly Seen[]): Promise<number> {
  const { id, watch, since } = kept;
  const { verbs } = watch.search;
  const isDue = ({ at, verb }: Seen) => at >= since && (verbs.length === 0 || verbs.includes(verb));
  // Nobody is alerted to what they did here themselves.
  const due = events.filter((event) => isDue(event) && !tellsOnly(watch, event.doers));
  if (due.length === 0) return 0;
  const watching = new Watching(watch, watch.many ? await hitsOf(db, kept, due) : undefined);
  let alerts = 0;
  for (const event of due) {
    const seen = watching.look(event);
    if (!seen) continue;
    const { key, raises } = seen;
    if (watch.many)
      await db.insertInto("watch_hit").values({ watch_id: id, key, at: event.at, seq: event.seq }).execute();
    if (raises && (await raiseOne(db, kept, event, key))) alerts++;
  }
  return alerts;
}

/** Events that counted already and may lie in one window with these. */
async function hitsOf(db: Reads, { id, watch }: OnEvents, events: readonly TrailEvent[]): Promise<Hits> {
  const earliest = events.reduce((least, { at }) => Math.min(least, at), Infinity) - watch.many!.seconds;
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
async function raiseOne(db: Tx, kept: OnEvents, event: Seen, key: string): Promise<boolean> {
  const { id } = kept;
  const open = await db
    .selectFrom("alert")
    .select(["id", "count", "last_at"])
    .where("watch_id", "=", id)
    .where("key", "=", key)
    .where("first_at", ">", event.at - ONE_ALERT_S)
    .where("first_at", "<", event.at + ONE_ALERT_S)
    .where("state", "!=", "settled")
    .orderBy("first_at", "desc")
    .executeTakeFirst();
  if (open) {
    await db
      .updateTable("alert")
      .set({ count: open.count + 1, last_at: Math.max(open.last_at, event.at), last_seq: event.seq })
      .where("id", "=", open.id)
      .execute();
    return false;
  }
  await newAlert(db, kept, {
    key,
    at: event.at,
    seq: event.seq,
    share: event.share?.key ?? null,
    item: event.item?.key ?? null,
    person: event.who?.people?.[0] ?? null,
    words: eventWords(event),
    doers: event.doers,
  });
  return true;
}

export interface AlertBegun {
  key: string;
  at: Seconds;
  /** The event that raised it; null where it is something that has not happened. */
  seq: number | null;
  share: string | null;
  item: string | null;
  person: string | null;
  words: string;
  /** Those who caused it themselves. */
  doers?: ReadonlySet<string>;
}

/**
 * Raises an alert about nothing that happened in a store.
 * @param watch the one that raises it; asked for only where the alert is new
 * @returns false where one of that key was raised already
 */
export async function raiseOnce(
  db: Db,
  watch: () => Promise<SavedWatch>,
  { key, at, words }: Pick<AlertBegun, "key" | "at" | "words">,
): Promise<boolean> {
  const known = await db.selectFrom("alert").select("id").where("key", "=", key).executeTakeFirst();
  if (known) return false;
  const kept = await watch();
  const nothing = { seq: null, share: null, item: null, person: null };
  await writing(db, (within) => newAlert(within, kept, { key, at, words, ...nothing }));
  return true;
}

/** Stores a new alert, and whom to tell of it. */
export async function newAlert(db: Tx, kept: SavedWatch, begun: AlertBegun) {
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
  await tell(db, kept, id, begun.at, begun.doers);
}
