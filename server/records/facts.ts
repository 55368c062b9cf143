import type SQLite from "better-sqlite3";
import { createHash } from "node:crypto";
import type { Held } from "@/core/access/history";
import type { Patch } from "@/core/access/standing";
import type { Sourced } from "@/core/estate/believed";
import type { Forgettable } from "@/core/estate/estate";
import type { EstateRecord, RecordOf, RecordType } from "@/core/estate/records";
import { ALWAYS, NEVER, type Seconds, seconds } from "@/core/time/instant";
import { recordKey } from "@/core/estate/records";
import { type RawBuilder, sql } from "kysely";
import type { Db, Reads, Tx } from "../platform/db/open";
import type { Mark } from "./marks";

/** A record as a store or a file reports it. */
export interface Seen {
  record: EstateRecord;
  /** When it became so: the end of the fact before, if we knew one. */
  at: string;
  /** Since when it holds if it is new to us; null is "since before we looked". */
  since: string | null;
  /** It is no more. */
  gone?: boolean;
}

/**
 * Writes what was seen: where a thing is as we knew it, nothing; where it has changed, the old fact
 * ends and a new one begins. To be called within one `writing`, together with the cursor that says
 * how far the reading came: so a reading that is killed neither loses nor doubles anything.
 *
 * @returns how many facts are new or changed
 */
export async function keepFacts({ prepare }: Tx, source: string, seen: Iterable<Seen>): Promise<number> {
  // Readings have hundreds of thousands of records: building a query for each takes far longer than running it.
  const statements: Statements = {
    current: prepare(`select id, body from fact where source = ? and type = ? and key = ? and "to" is null`),
    end: prepare(`update fact set "to" = ? where id = ?`),
    remove: prepare(`insert into removal (fact_id) values (?)`),
    begin: prepare(`insert into fact (source, type, key, body, "from", "to") values (?, ?, ?, ?, ?, null)`),
  };
  const fresh = hasFacts(prepare, source) ? null : new Set<string>();
  let changed = 0;
  for (const one of seen) if (keepFact(statements, source, one, fresh)) changed++;
  return changed;
}

/** Writes the first facts of a source, each thing once, without looking for earlier ones. @returns how many */
export function beginFacts({ prepare }: Tx, source: string, seen: Iterable<Seen>): number {
  const begin = prepare(`insert into fact (source, type, key, body, "from", "to") values (?, ?, ?, ?, ?, null)`);
  let count = 0;
  for (const { record, since } of seen) {
    begin.run(source, record.type, recordKey(record), JSON.stringify(record), since);
    count++;
  }
  return count;
}

type Statements = Record<"current" | "end" | "remove" | "begin", SQLite.Statement<unknown[]>>;

function hasFacts(prepare: Tx["prepare"], source: string): boolean {
  return prepare(`select 1 from fact where source = ? and "to" is null limit 1`).get(source) !== undefined;
}

/**
 * @param fresh of a source that had told nothing before: what it has told since. All else of it need not be looked for.
 * @returns whether it is new or changed
 */
function keepFact(
  { current, end, remove, begin }: Statements,
  source: string,
  seen: Seen,
  fresh: Set<string> | null,
): boolean {
  const { record, at, since, gone } = seen;
  const key = recordKey(record);
  const body = JSON.stringify(record);
  const name = `${record.type} ${key}`;
  const isNew = fresh !== null && !fresh.has(name);
  fresh?.add(name);
  const now = isNew ? undefined : (current.get(source, record.type, key) as { id: number; body: string } | undefined);
  if (gone ? !now : now?.body === body) return false;
  if (now) end.run(at, now.id);
  if (gone) remove.run(now!.id);
  else begin.run(source, record.type, key, body, now ? at : since);
  return true;
}

/**
 * Since when a thing held that the first word of a source tells: since its record says that it was made. A membership
 * or a stance has no date, and held when that word was true; before that nobody has told of it. Whoever is only spoken
 * of, and what stores can do, has been so since before we looked: without them nothing dated could be understood.
 * @param asOf when the first word was true
 */
export function firstHeld(record: EstateRecord, asOf: string): string | null {
  switch (record.type) {
    case "item":
    case "link":
      return record.createdAt;
    case "grant":
      return record.grantedAt;
    case "member":
    case "party":
      return asOf;
    default:
      return null;
  }
}

/** The body of a fact; where it matters whose word it is, with its source. */
export const sourced = sql<string>`case type
  when 'person' then json_set(body, '$.source', source)
  when 'party' then json_set(body, '$.source', source)
  when 'store' then json_set(body, '$.source', source, '$.isRead',
    json(iif(exists (select 1 from source where name = fact.source and kind = 'store'), 'true', 'false')))
  else body end`;

/** For what is gone: its body, where that is needed to remove it. */
export const forgettable = sql<string | null>`iif(type in ('member', 'party'), ${sourced}, null)`;

export function forgettableFrom({ type, key, body }: { type: string; key: string; body: string | null }): Forgettable {
  return (body === null ? { type, id: key } : JSON.parse(body)) as Forgettable;
}

/** Every record that holds now, in the order in which we learned of it as it is. @param last the last fact to be looked at */
export function currentRecords(db: Reads, last = lastFact(db)): Generator<Sourced> {
  return recordsBetween(db, 0, last);
}

function lastFact(db: Reads): number {
  return (db.prepare("select max(id) as id from fact").get() as { id: number | null }).id ?? 0;
}

/** A share's record as it was at an instant, or as it is now. */
export async function recordText(db: Db, id: string, at: string | null): Promise<string | null> {
  const fact = await db
    .selectFrom("fact")
    .select("body")
    .where("type", "in", ["grant", "link"])
    .where("key", "=", id)
    .where(at === null ? sql<boolean>`"to" is null` : heldAt(at))
    .executeTakeFirst();
  return fact?.body ?? null;
}

/** What a share's record has been up to an instant, or up to now, in the order of time. */
export async function shareHistory(db: Db, id: string, at: string | null): Promise<Held[]> {
  const rows = await db
    .selectFrom("fact")
    .select(["body", "from", "to"])
    .where("type", "in", ["grant", "link"])
    .where("key", "=", id)
    .where(at === null ? sql<boolean>`true` : sql<boolean>`("from" is null or "from" <= ${at})`)
    .orderBy("id")
    .execute();
  return rows.map(heldFrom);
}

/** A fact with the period in which it held. */
export function heldFrom({ body, from, to }: { body: string; from: string | null; to: string | null }): Held {
  return {
    record: JSON.parse(body),
    from: from === null ? ALWAYS : seconds(from),
    to: to === null ? NEVER : seconds(to),
  };
}

/** Whether a fact held at an instant. What has no beginning that we saw, has held since before we looked. */
export function heldAt(at: string) {
  return sql<boolean>`("from" is null or "from" <= ${at}) and ("to" is null or "to" > ${at})`;
}

/** Few enough that parsed records are let go of before the garbage collector takes them for something that stays. */
const PIECE = 2_000;

/**
 * What came between two facts and holds now. Facts are packed into one text for so many of them: read and parsed several
 * times faster than row by row; and never are all of them held at once.
 */
function* recordsBetween(db: Reads, after: number, last: number): Generator<Sourced> {
  for (let from = after; from < last; from += PIECE) {
    const { sql: text, parameters } = db
      .selectFrom("fact")
      .where("id", ">", from)
      .where("id", "<=", Math.min(from + PIECE, last))
      .where("to", "is", null)
      .select([
        sql<string | null>`group_concat(${sourced}, ',')`.as("bodies"),
        sql<string | null>`group_concat(coalesce("from", ''), ',')`.as("begun"),
      ])
      .compile();
    const packed = db.prepare(text).get(...parameters) as { bodies: string | null; begun: string | null };
    const begun = packed.begun?.split(",") ?? [];
    for (const [i, record] of (JSON.parse(`[${packed.bodies ?? ""}]`) as Sourced[]).entries()) {
      record.heldSince = begun[i] || null;
      yield record;
    }
  }
}

/** Every record of one type that holds now, or held at an instant, in the order of their keys. */
export async function* recordsOfType<T extends RecordType>(
  db: Reads,
  type: T,
  at?: string,
): AsyncGenerator<Sourced<RecordOf<T>>> {
  for (let behind: { key: string; id: number } = { key: "", id: 0 }; ;) {
    const facts = db
      .selectFrom("fact")
      .select(["id", "key", sourced.as("body")])
      .where("type", "=", type)
      .where(sql<boolean>`(key, id) > (${behind.key}, ${behind.id})`)
      .where(at === undefined ? sql<boolean>`"to" is null` : heldAt(at))
      .orderBy("key")
      .orderBy("id")
      .limit(PIECE);
    // In one text, which is much faster to read and parse than row by row.
    const packed = await db
      .with(
        (cte) => cte("page").materialized(),
        () => facts,
      )
      .selectFrom("page")
      .select([
        sql<string | null>`group_concat(body, ',')`.as("bodies"),
        sql<number>`count(*)`.as("count"),
        sql<string>`(select key from page order by key desc, id desc limit 1)`.as("key"),
        sql<number>`(select id from page order by key desc, id desc limit 1)`.as("id"),
      ])
      .executeTakeFirstOrThrow();
    yield* JSON.parse(`[${packed.bodies ?? ""}]`) as Sourced<RecordOf<T>>[];
    if (packed.count < PIECE) return;
    behind = packed;
  }
}

/** All that one source tells now of some types, by key and unparsed. */
export function bodiesOf(db: Reads, source: string, types: readonly RecordType[]) {
  return db
    .selectFrom("fact")
    .select(["key", "body"])
    .where("source", "=", source)
    .where("type", "in", types)
    .where("to", "is", null)
    .execute();
}

/** All that is known now of one type, with the source of each. */
export async function bodiesNow<R>(db: Reads, type: RecordType): Promise<{ source: string; record: R }[]> {
  const rows = await db
    .selectFrom("fact")
    .select(["source", "body"])
    .where("type", "=", type)
    .where("to", "is", null)
    .orderBy("key")
    .execute();
  return rows.map(({ source, body }) => ({ source, record: JSON.parse(body) }));
}

/** How many records each source reports now. */
export async function countsBySource(db: Reads): Promise<Map<string, number>> {
  const rows = await db
    .selectFrom("fact")
    .select(["source", (eb) => eb.fn.countAll<number>().as("count")])
    .where("to", "is", null)
    .groupBy("source")
    .execute();
  return new Map(rows.map(({ source, count }) => [source, count]));
}

/** Makes a record count as new because something that depends on it has changed. */
export async function tellAgain(tx: Tx, type: RecordType, key: string): Promise<void> {
  const now = await tx
    .selectFrom("fact")
    .selectAll()
    .where("type", "=", type)
    .where("key", "=", key)
    .where("to", "is", null)
    .executeTakeFirst();
  if (!now) return;
  const at = tx.clock.text();
  await tx.updateTable("fact").set({ to: at }).where("id", "=", now.id).execute();
  const { id: _, ...same } = now;
  await tx
    .insertInto("fact")
    .values({ ...same, from: at, to: null })
    .execute();
}

/** Every fact, with the period in which it held. */
export async function* factsInPieces(db: Db): AsyncGenerator<Held> {
  for (let after = 0, last = -1; after !== last;) {
    last = after;
    const rows = await db
      .selectFrom("fact")
      .select(["id", sourced.as("body"), "from", "to"])
      .where("id", ">", after)
      .orderBy("id")
      .limit(PIECE)
      .execute();
    yield* rows.map(heldFrom);
    after = rows.at(-1)?.id ?? after;
  }
}

/** A record as it is known now; null if there is none. */
export async function factNow<R>(db: Reads, type: RecordType, key: string): Promise<R | null> {
  const row = await db
    .selectFrom("fact")
    .select("body")
    .where("type", "=", type)
    .where("key", "=", key)
    .where("to", "is", null)
    .executeTakeFirst();
  return row ? JSON.parse(row.body) : null;
}

/** What changed between two marks. Of a thing that changed more than once only what it is now; of one that ended and began again nothing is removed. It can be gone through once. */
export async function patchBetween(db: Db, from: Mark, to: Mark): Promise<Patch> {
  const removed = await db
    .selectFrom("removal")
    .innerJoin("fact", "fact.id", "removal.fact_id")
    .select(["type", "key", forgettable.as("body")])
    .where("removal.seq", ">", from.removal)
    .where("removal.seq", "<=", to.removal)
    // A membership stands as long as any source tells of it; of stances each source has its own.
    .where(
      sql<boolean>`not exists (select 1 from fact as now where now.type = fact.type and now.key = fact.key
        and (now.type <> 'party' or now.source = fact.source) and now."to" is null)`,
    )
    .execute();
  return {
    put: recordsBetween(db, from.fact, to.fact),
    removed: removed.map(forgettableFrom),
  };
}

/** Tells a fact from one with the same number in another database; null where there is none. */
export async function factSign(db: Db, id: number): Promise<string | null> {
  const fact = await db.selectFrom("fact").select(["type", "key", "body"]).where("id", "=", id).executeTakeFirst();
  return fact ? createHash("sha256").update(`${fact.type} ${fact.key} ${fact.body}`).digest("hex") : null;
}

/**
 * The body of what is known now of one thing, as a part of another room's statement.
 * @param key the expression that has its id there
 */
export function bodyNow(types: readonly RecordType[], key: RawBuilder<unknown>): RawBuilder<string | null> {
  return sql<string | null>`(select fact.body from fact
    where fact.type in (${sql.join(types)}) and fact.key = ${key} and fact."to" is null)`;
}

/** By id of each store that is known now: the source that told of it. */
export async function sourcesOfStores(db: Reads): Promise<Map<string, string>> {
  const stores = await db
    .selectFrom("fact")
    .select(["key", "source"])
    .where("type", "=", "store")
    .where("to", "is", null)
    .execute();
  return new Map(stores.map(({ key, source }) => [key, source]));
}

/**
 * Ids of an item and of every folder that it lay in and inherited from, at any time up to an instant; the item first.
 */
export async function itemAndAbove(db: Reads, id: string, until: string): Promise<string[]> {
  const { rows } = await sql<{ id: string }>`
    with recursive above (id, depth) as (
      values (${id}, 0)
      union
      select json_extract(fact.body, '$.parentId'), above.depth + 1 from above
        join fact on fact.type = 'item' and fact.key = above.id and (fact."from" is null or fact."from" <= ${until})
        where above.depth < ${MOST_ABOVE} and json_extract(fact.body, '$.parentId') is not null
          and json_extract(fact.body, '$.inherits') is not 0)
    select id from above group by id order by min(depth)`.execute(db);
  return rows.map((row) => row.id);
}
/** This ends at a circle of folders. */
const MOST_ABOVE = 200;

/** Ids of all shares that ever lay on some items. */
export async function sharesOnItems(db: Reads, items: readonly string[]): Promise<string[]> {
  const rows = await db
    .selectFrom("fact")
    .select("key")
    .distinct()
    .where("type", "in", ["grant", "link"])
    .where(sql<boolean>`json_extract(body, '$.itemId') in (select value from json_each(${JSON.stringify(items)}))`)
    .execute();
  return rows.map(({ key }) => key);
}

/**
 * Ids of all shares that ever let somebody in by name: rights of theirs or of a group that ever held them, and links
 * that named them. Groups within groups count.
 * @param address normalised
 */
export async function sharesNaming(db: Reads, address: string): Promise<string[]> {
  const { rows } = await sql<{ key: string }>`
    with recursive who (id) as (
      select key from fact where type = 'person' and lower(json_extract(body, '$.email')) = ${address}
      union
      select json_extract(fact.body, '$.groupId') from who
        join fact on fact.type = 'member' and json_extract(fact.body, '$.memberId') = who.id)
    select distinct key from fact where type = 'grant' and json_extract(body, '$.toId') in (select id from who)
    union
    select distinct fact.key from fact, json_each(fact.body, '$.recipients') as one
      where fact.type = 'link' and lower(json_extract(one.value, '$.email')) = ${address}`.execute(db);
  return rows.map((row) => row.key);
}

/** Every mail address that is or was known: of people, of recipients of links, and of those whom events speak of. */
export async function addressesKnown(db: Reads): Promise<string[]> {
  const { rows } = await sql<{ email: string }>`
    select json_extract(body, '$.email') as email from fact where type = 'person'
    union
    select json_extract(one.value, '$.email') from fact, json_each(fact.body, '$.recipients') as one
      where fact.type = 'link'
    union
    select one.value from spoken, json_each(spoken.body, '$.people') as one`.execute(db);
  return rows.map(({ email }) => email);
}

/** Everybody who is or was known, with the names and addresses that they ever had. */
export function* peopleEver({ sqlite }: Reads): Generator<RecordOf<"person">> {
  const after = sqlite.prepare("select id, body from fact where type = 'person' and id > ? order by id limit ?");
  for (let last = 0; ;) {
    const rows = after.all(last, PIECE) as { id: number; body: string }[];
    for (const { body } of rows) yield JSON.parse(body);
    if (rows.length < PIECE) return;
    last = rows[PIECE - 1].id;
  }
}

/** The earliest instant that facts between two marks change anything at; null where there are none. */
export async function earliestBetween(db: Reads, from: Mark, to: Mark): Promise<Seconds | null> {
  const { rows } = await sql<{ at: string | null; count: number }>`
    select min(at) as at, count(*) as count from (
      select coalesce("from", '') as at from fact where id > ${from.fact} and id <= ${to.fact}
      union all
      select fact."to" from removal join fact on fact.id = removal.fact_id
        where removal.seq > ${from.removal} and removal.seq <= ${to.removal})`.execute(db);
  const [{ at, count }] = rows;
  if (count === 0) return null;
  // A fact that has held since before we looked affects the whole past.
  return at === "" || at === null ? ALWAYS : seconds(at);
}
