import canonicalize from "canonicalize";
import { sql } from "kysely";
import { type EventRecord, recordSchemas } from "@/core/estate/records";
import { ALWAYS, seconds, type Seconds } from "@/core/time/instant";
import { type FreshEvent, type TrailEvent, PARTS, REMARKS, type Remark, type Spoken } from "@/core/trail/event";
import { isVerb } from "@/core/trail/verbs";
import { wordsOf } from "@/core/trail/meets";
import { type Mentions, namedHere } from "../names";
import { type Db, type Reads, runForEach, type Tx } from "../../platform/db/open";
import { Speaking, type SpokenOf } from "./speaking";

/** Which of some keys are those of changes that we sent. */
export type Ours = (tx: Tx, keys: readonly string[]) => Promise<ReadonlySet<string>>;

/** The result of taking events in. */
export interface Taken {
  taken: number;
  /** Reported before in the same words: nothing to keep. */
  known: number;
  /** Reported before in other words: the new version is kept beside it. */
  again: number;
  /** The new ones, in their order. */
  fresh: FreshEvent[];
}

const NOTHING_SPOKEN_OF: SpokenOf = { parts: { who: null, item: null, share: null, whom: null }, isUnknown: false };

interface Told {
  key: string;
  at: string;
  verb: string;
  body: string;
  record: EventRecord | null;
}

/**
 * Keeps events for good, with what they speak of at that time. To be called within one `writing`, together with what
 * others make of the new ones and the cursor that says how far the reading came: so a reading that is killed neither
 * loses an event, nor counts one twice, nor misses or repeats an alert.
 *
 * @param source whoever tells of them
 * @param events as they came; what can't be read is kept as it is
 * @param mentions what ids mean that the source speaks of and has never told
 * @param ours which keys are of changes that we sent; a source's word alone makes nothing ours
 */
export async function takeEvents(
  db: Tx,
  source: string,
  records: readonly unknown[],
  mentions: Mentions = "own",
  ours: Ours = async () => new Set(),
): Promise<Taken> {
  const told = await withoutKnown(
    db,
    source,
    records.map((raw) => toldFrom(db, raw)),
  );
  const named = await namedEvents(db, source, told.fresh, mentions);
  const events = await readEvents(db, source, named, ours);
  const numbers = await numbersOf(db, events);
  const rows = events.map((event, i) => {
    const { key, body } = told.fresh[i];
    const bits = event.remarks.reduce((sum, remark) => sum | (1 << REMARKS.indexOf(remark)), 0);
    const parts = PARTS.map((part) => (event[part] === null ? 0 : numbers.get(event[part])!));
    return [event.seq, event.at, source, key, event.verb, ...parts, bits, body];
  });
  runForEach(
    db,
    `insert into event (seq, at, source, key, verb, ${PARTS.join(", ")}, remarks, body) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    rows,
  );
  return { taken: events.length, known: told.known, again: told.again, fresh: events };
}

function toldFrom(db: Tx, raw: unknown): Told {
  const parsed = recordSchemas.event.safeParse(raw);
  const body = JSON.stringify(raw) ?? "null";
  if (parsed.success) {
    const { id, at, verb } = parsed.data;
    return { key: id, at, verb, body, record: parsed.data };
  }
  const { id, at } = Object(raw) as { id?: unknown; at?: unknown };
  // An event without an id is identified by its whole content.
  const key = typeof id === "string" && id !== "" ? id : body;
  const isTime = typeof at === "string" && recordSchemas.event.shape.at.safeParse(at).success;
  return { key, at: isTime ? at : db.clock.text(), verb: "unreadable", body, record: null };
}

/** The events, with what they refer to under its ids here. What a source has never reported is never taken for another's. */
async function namedEvents(db: Tx, source: string, told: readonly Told[], mentions: Mentions): Promise<Told[]> {
  const records = told.flatMap(({ record }) => record ?? []);
  const named = await namedHere(db, source, records, mentions);
  const byEvent = new Map(records.map((record, i) => [record, named[i]]));
  return told.map((one) => (one.record === null ? one : { ...one, record: byEvent.get(one.record)! }));
}

/** Leaves out known events; one reported again in other words is kept apart and not counted. */
async function withoutKnown(db: Reads, source: string, told: readonly Told[]) {
  const { rows } = await sql<{ key: string; body: string }>`select key, body from event where source = ${source}
    and key in (select value from json_each(${JSON.stringify(told.map(({ key }) => key))}))`.execute(db);
  const bodies = new Map(rows.map(({ key, body }) => [key, body]));
  const fresh: Told[] = [];
  let [known, again] = [0, 0];
  for (const one of told) {
    const before = bodies.get(one.key);
    if (before === undefined) fresh.push(one);
    else if (same(before, one.body)) known++;
    else {
      again++;
      await db
        .insertInto("event_again")
        .values({ source, key: one.key, told_at: db.clock.text(), body: one.body })
        .execute();
    }
    bodies.set(one.key, before ?? one.body);
  }
  return { fresh, known, again };
}

function same(a: string, b: string): boolean {
  return a === b || canonicalize(JSON.parse(a)) === canonicalize(JSON.parse(b));
}

async function readEvents(db: Tx, source: string, told: readonly Told[], ours: Ours): Promise<FreshEvent[]> {
  const claimed = told.flatMap(({ record }) => changeOf(record) ?? []);
  const sent = claimed.length > 0 ? await ours(db, claimed) : new Set<string>();
  const speaking = await speakingNow(db);
  const last = await db.selectFrom("event").select("seq").orderBy("seq", "desc").limit(1).executeTakeFirst();
  let seq = last?.seq ?? 0;
  let latest = await latestOf(db, source);
  const events: FreshEvent[] = [];
  for (const { at: text, verb, record } of told) {
    const at = seconds(text);
    const { parts, isUnknown } = record ? await speaking.of(record) : NOTHING_SPOKEN_OF;
    const claims = changeOf(record);
    const change = claims !== null && sent.has(claims) ? claims : null;
    const holds: Record<Remark, boolean> = {
      "unknown-verb": !isVerb(verb),
      "unknown-thing": isUnknown,
      late: at < latest,
      unreadable: record === null,
      ours: change !== null,
    };
    const remarks = REMARKS.filter((remark) => holds[remark]);
    events.push({ seq: ++seq, at, source, verb, remarks, ...parts, change });
    latest = Math.max(latest, at);
  }
  return events;
}

/** The key of the change of which a source says that an event came. */
function changeOf(record: EventRecord | null): string | null {
  const change = record?.detail?.change;
  return typeof change === "string" ? change : null;
}

/** When the last event of a source happened. */
async function latestOf(db: Reads, source: string): Promise<Seconds> {
  // The plus keeps SQLite from going through all events of the source: the last one stands near the end.
  const { rows } = await sql<{
    at: Seconds;
  }>`select at from event where +source = ${source} order by seq desc limit 1`.execute(db);
  return rows[0]?.at ?? ALWAYS;
}

/** By database, whatever transaction asks. */
const speakings = new WeakMap<object, { fact: number; speaking: Speaking; numbers: WeakMap<Spoken, number> }>();

/** What was looked up for earlier events stays right until a new fact comes. */
async function speakingNow(db: Reads): Promise<Speaking> {
  const newest = await db
    .selectFrom("fact")
    .select((eb) => eb.fn.max("id").as("id"))
    .executeTakeFirst();
  const fact = Number(newest?.id ?? 0);
  const known = speakings.get(db.sqlite);
  const speaking = known?.fact === fact ? known.speaking : await Speaking.about(db);
  if (speaking !== known?.speaking) speakings.set(db.sqlite, { fact, speaking, numbers: new WeakMap() });
  return speaking.within(db);
}

/** The numbers of all that some events refer to; what is new gets one, and can be found by its words. */
async function numbersOf(db: Tx, events: readonly TrailEvent[]): Promise<Map<Spoken, number>> {
  const held = speakings.get(db.sqlite)!.numbers;
  const numbers = new Map<Spoken, number>();
  const spoken = new Map<string, Spoken[]>();
  const fresh = new Set<Spoken>();
  for (const event of events)
    for (const part of PARTS) {
      const one = event[part];
      const number = one && held.get(one);
      if (number) numbers.set(one, number);
      else if (one) fresh.add(one);
    }
  for (const one of fresh) {
    const body = JSON.stringify(one);
    spoken.set(body, [...(spoken.get(body) ?? []), one]);
  }
  const bodies = [...spoken.keys()];
  type Numbered = { id: number; body: string };
  const { rows: known } = await sql<Numbered>`select id, body from spoken
    where body in (select value from json_each(${JSON.stringify(bodies)}))`.execute(db);
  const before = new Set(known.map(({ body }) => body));
  const unknown = bodies.filter((body) => !before.has(body));
  const { rows: added } = await sql<Numbered>`insert into spoken (body)
    select value from json_each(${JSON.stringify(unknown)}) returning id, body`.execute(db);
  for (const { id, body } of [...known, ...added]) for (const one of spoken.get(body)!) numbers.set(one, id);
  // What is added now is undone if its transaction fails.
  for (const { id, body } of known) for (const one of spoken.get(body)!) held.set(one, id);
  const words = added.map(({ id, body }) => [id, wordsOf(spoken.get(body)![0]).join(" ")]);
  await sql`insert into spoken_words (rowid, words)
    select value ->> 0, value ->> 1 from json_each(${JSON.stringify(words)})`.execute(db);
  return numbers;
}

/** What was looked up in a failed transaction may be wrong. */
export function forgetSpeaking(db: Db) {
  speakings.delete(db.sqlite);
}
