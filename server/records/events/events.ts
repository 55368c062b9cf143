import { sql } from "kysely";
import { type EventRecord, recordSchemas } from "@/core/estate/records";
import type { Seconds } from "@/core/time/instant";
import { shownName } from "@/core/text/shown";
import { PARTS, remarksIn, type Spoken, type TrailEvent } from "@/core/trail/event";
import { piecesOf } from "@/core/text/text";
import type { EventRow } from "@/core/trail/trail";
import { USING } from "@/core/trail/verbs";
import { besides, type Db, type Reads } from "../../platform/db/open";
import { isAmong } from "../../platform/db/among";

const PIECE = 20_000;

/** Things that events refer to whose number is above another, the lowest first. */
export async function* spokenAfter(db: Db, id: number): AsyncGenerator<[id: number, spoken: Spoken][]> {
  for (let after = id; ;) {
    const rows = await db.selectFrom("spoken").selectAll().where("id", ">", after).orderBy("id").limit(PIECE).execute();
    yield rows.map((row) => [row.id, shownSpoken(JSON.parse(row.body))]);
    if (rows.length < PIECE) return;
    after = rows[PIECE - 1].id;
  }
}

/** Of so many things that events refer to it is remembered what they are. */
const MOST_SPOKEN = 50_000;
/** Of so many events at a time what they refer to is looked up. */
const EVENTS_AT_ONCE = 2_000;

/**
 * The events of a span, the newest first, in little memory however many there are: they are sorted on disk.
 * @param to behind the last instant
 */
export async function* eventsNewestFirst(db: Db, from: Seconds, to: Seconds): AsyncGenerator<TrailEvent[]> {
  const spoken = new Map<number, Spoken>();
  const connection = besides(db);
  try {
    const rows = connection
      .prepare(
        `select seq, at, source, verb, who, item, share, whom, remarks from event
          where at >= ? and at < ? order by at desc, seq desc`,
      )
      .iterate(from, to) as IterableIterator<EventRow>;
    for (const some of inPieces(rows, EVENTS_AT_ONCE)) {
      await remember(db, spoken, some);
      yield some.map((row) => told(row, spoken));
    }
  } finally {
    connection.close();
  }
}

function* inPieces<T>(all: Iterable<T>, size: number): Generator<T[]> {
  let piece: T[] = [];
  for (const one of all)
    if (piece.push(one) === size) {
      yield piece;
      piece = [];
    }
  if (piece.length > 0) yield piece;
}

async function remember(db: Db, spoken: Map<number, Spoken>, rows: readonly EventRow[]) {
  if (spoken.size > MOST_SPOKEN) spoken.clear();
  const asked = new Set(rows.flatMap((row) => PARTS.map((part) => row[part]).filter((one) => !spoken.has(one))));
  const found = await db
    .selectFrom("spoken")
    .selectAll()
    .where(isAmong("id", [...asked]))
    .execute();
  for (const { id, body } of found) spoken.set(id, shownSpoken(JSON.parse(body)));
}

function told({ seq, at, source, verb, remarks, ...row }: EventRow, spoken: ReadonlyMap<number, Spoken>): TrailEvent {
  const [who, item, share, whom] = PARTS.map((part) => spoken.get(row[part]) ?? null);
  return { seq, at, source, verb, remarks: remarksIn(remarks), who, item, share, whom };
}

function shownSpoken(spoken: Spoken): Spoken {
  return { ...spoken, name: shownName(spoken.name), detail: shownName(spoken.detail) };
}

type Packed = [number, number, string, string, number, number, number, number, number];

/** Events that came after another, in order; each piece is packed into one text, which is faster to read. */
export async function* eventsAfter(db: Db, seq: number): AsyncGenerator<EventRow[]> {
  for (let after = seq; ;) {
    const { rows } = await sql<{ packed: string }>`
      select json_group_array(json_array(seq, at, source, verb, who, item, share, whom, remarks)) as packed
      from (select * from event where seq > ${after} order by seq limit ${PIECE})`.execute(db);
    const events = (JSON.parse(rows[0].packed) as Packed[]).map(rowFrom);
    yield events;
    if (events.length < PIECE) return;
    after = events[PIECE - 1].seq;
  }
}

function rowFrom([seq, at, source, verb, who, item, share, whom, remarks]: Packed): EventRow {
  return { seq, at, source, verb, who, item, share, whom, remarks };
}

/** Numbers of everything that has a word beginning with this one. @param word one of `wordsIn` */
export async function spokenWith(db: Db, word: string): Promise<number[]> {
  const { rows } = await sql<{ ids: string | null }>`
    select group_concat(rowid) as ids from spoken_words where spoken_words match ${`"${piecesOf([word]).join(" ")}" *`}`.execute(
    db,
  );
  return JSON.parse(`[${rows[0].ids ?? ""}]`);
}

/** Of each share that events tell of: its id, and when it was last used up to an instant. One after the other. */
export function lastUsesUpTo({ prepare }: Db, at: Seconds): IterableIterator<{ id: string; at: Seconds }> {
  const uses = prepare(
    `select body ->> '$.key' as id, max(used.at) as at
     from (select share, max(at) as at from event where at <= ? and verb in (${USING.map(() => "?").join()}) group by share) as used
     join spoken on spoken.id = used.share
     group by 1`,
  );
  return uses.iterate(at, ...USING) as IterableIterator<{ id: string; at: Seconds }>;
}

/** Who revoked some shares, by the shares' ids, as far as events tell: the last who did, by name. */
export async function revokersOf(db: Db, shareIds: readonly string[]): Promise<Map<string, string>> {
  if (shareIds.length === 0) return new Map();
  const { rows } = await sql<{ id: string; name: string; at: Seconds }>`
    select share.id, actor.body ->> '$.name' as name, max(event.at) as at
    from (${sharesAmong(shareIds)}) as share
    join event on event.share = share.number
    join spoken as actor on actor.id = event.who
    where event.verb = 'revoked'
    group by share.id`.execute(db);
  return new Map(rows.map(({ id, name }) => [id, shownName(name)]));
}

/** The numbers by which events refer to some shares. */
function sharesAmong(shareIds: readonly string[]) {
  return sql`select id as number, body ->> '$.key' as id from spoken
    where body ->> '$.kind' = 'share' and body ->> '$.key' in (select value from json_each(${JSON.stringify(shareIds)}))`;
}

/** Events as they were reported, in the order in which they came. */
export async function bodiesOf(db: Db, seqs: readonly number[]): Promise<Map<number, string>> {
  const rows = await db.selectFrom("event").select(["seq", "body"]).where(isAmong("seq", seqs)).execute();
  return new Map(rows.map(({ seq, body }) => [seq, body]));
}

/** An event as it was reported, and by which source. */
export interface ToldEvent {
  source: string;
  event: EventRecord;
}

/** Every event that could be read, in the order in which they came. */
export async function* eventsInPieces(db: Db): AsyncGenerator<ToldEvent[]> {
  for (let after = 0; ;) {
    const rows = await db
      .selectFrom("event")
      .select(["seq", "body", "verb", "source"])
      .where("seq", ">", after)
      .orderBy("seq")
      .limit(PIECE)
      .execute();
    yield rows
      .filter(({ verb }) => verb !== "unreadable")
      .map(({ source, body }) => ({ source, event: recordSchemas.event.parse(JSON.parse(body)) }));
    if (rows.length < PIECE) return;
    after = rows[PIECE - 1].seq;
  }
}

/** When the first event happened that each source told of. */
export async function firstEvents(db: Reads): Promise<Map<string, Seconds>> {
  const rows = await db
    .selectFrom("event")
    .select((eb) => ["source", eb.fn.min("at").as("at")])
    .groupBy("source")
    .execute();
  return new Map(rows.map(({ source, at }) => [source, Number(at)]));
}

/** The number of the event that came last; 0 before any did. */
export async function lastEvent(db: Reads): Promise<number> {
  const row = await db
    .selectFrom("event")
    .select((eb) => eb.fn.max("seq").as("seq"))
    .executeTakeFirst();
  return Number(row?.seq ?? 0);
}

/** When the earliest of the events happened that came after another; null where none has. */
export async function earliestEventAfter(db: Reads, seq: number): Promise<Seconds | null> {
  const row = await db
    .selectFrom("event")
    .select((eb) => eb.fn.min("at").as("at"))
    .where("seq", ">", seq)
    .executeTakeFirst();
  return row?.at ?? null;
}
