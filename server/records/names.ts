import { sql } from "kysely";
import { type Change, changeWithIds } from "@/core/changes/change";
import { eachId, type NameSpace, SPACE_OF, withIds } from "@/core/estate/naming";
import type { EstateRecord, RecordType } from "@/core/estate/records";
import type { Db, Reads, Tx } from "../platform/db/open";
import type { SourceTable } from "../platform/db/schema";

/*
 * Ids are a source's own. The first that speaks for an id has it here too; what a later one knows by the same id is
 * SOURCE:ID here, for good. So nothing of one source is ever taken for something of another, and everywhere but at
 * the doors of the sources there is one kind of id.
 */

const TYPES_IN: Record<NameSpace, RecordType[]> = {
  store: ["store"],
  principal: ["person", "group"],
  item: ["item"],
  share: ["grant", "link"],
  engagement: ["engagement"],
};

/**
 * What ids mean that a source speaks of and hasn't told: its `own` things still, since a store never means what others
 * told; or `anybody's` where it doesn't know the id itself, as in imports.
 */
export type Mentions = "own" | "anybody's";

type IdsBySpace = Map<NameSpace, Set<string>>;

/** Notes that a source has begun to report. @returns whether it has reported nothing before */
export async function beginSource(db: Tx, name: string, kind: SourceTable["kind"]): Promise<boolean> {
  const { numInsertedOrUpdatedRows } = await db
    .insertInto("source")
    .values({ name, kind, first_told_at: db.clock.text() })
    .onConflict((conflict) => conflict.doNothing())
    .executeTakeFirst();
  return numInsertedOrUpdatedRows === 1n;
}

/** A source tells from now on in another way: a store that was read is known from imports, or the other way round. */
export async function setSourceKind(tx: Tx, name: string, kind: SourceTable["kind"]): Promise<void> {
  await tx.updateTable("source").set({ kind }).where("name", "=", name).execute();
}

/**
 * How what a source tells is named here, by space and id, where that isn't by the same id. What is new gets its name.
 */
function namesFor(db: Tx, source: string, records: readonly EstateRecord[], mentions: Mentions): Map<string, string> {
  const [told, spokenOf] = [new Map() as IdsBySpace, new Map() as IdsBySpace];
  for (const record of records) {
    const space = SPACE_OF[record.type];
    if (space !== null) add(told, space, (record as { id: string }).id);
    eachId(record, (of, id) => add(spokenOf, of, id));
  }
  const names = new Map<string, string>();
  for (const [space, ids] of spokenOf) {
    const known = knownNames(db, source, space, [...ids]);
    const [apart, kept]: [string[], string[]] = [[], []];
    for (const id of ids) {
      const isTold = told.get(space)?.has(id) ?? false;
      const { own, holders } = known(id);
      if (own !== undefined) names.set(space + id, own);
      else if (holders.includes(source)) continue;
      else if (holders.length > 0 && (isTold || mentions === "own")) apart.push(id);
      // No other source that uses this id later may get it.
      else if (holders.length === 0 && !isTold && mentions === "own") kept.push(id);
    }
    const named = namesApart(db, source, space, apart, ids);
    for (const [own, id] of named) names.set(space + own, id);
    keepNames(db, source, space, [...named, ...kept.map((id) => [id, id] as const)]);
  }
  return names;
}

/** Whether another source has reported anything but itself, or any id was renamed here: otherwise all ids stay as they are. */
export async function areOthersHere(db: Tx, source: string): Promise<boolean> {
  const { rows } = await sql<{ are: number }>`
    select exists (select 1 from fact where source <> ${source} and type <> 'estate')
      or exists (select 1 from own_id) as are`.execute(db);
  return rows[0].are === 1;
}

/** The same records under the names that they have already; what has none keeps its own id. */
export async function namedAsKnown<R extends EstateRecord>(
  db: Db,
  source: string,
  records: readonly R[],
): Promise<R[]> {
  const ids: IdsBySpace = new Map();
  for (const record of records) eachId(record, (space, id) => add(ids, space, id));
  const names = new Map<string, string>();
  for (const [space, own] of ids)
    for (const one of ownIds(db, source, space, "own", [...own])) names.set(space + one.own, one.id);
  return records.map((record) => withIds(record, (space, id) => names.get(space + id) ?? id));
}

/** The same records under the ids that they have here. What is new gets its name. */
export async function namedHere<R extends EstateRecord>(
  db: Tx,
  source: string,
  records: readonly R[],
  mentions: Mentions = "own",
): Promise<R[]> {
  if (mentions === "anybody's" && !(await areOthersHere(db, source))) return [...records];
  const names = namesFor(db, source, records, mentions);
  if (names.size === 0) return [...records];
  return records.map((record) => withIds(record, (space, id) => names.get(space + id) ?? id));
}

/** A change, with the ids that its store knows. */
export async function namedThere(db: Db, source: string, change: Change): Promise<Change> {
  const ids: IdsBySpace = new Map();
  changeWithIds(change, (space, id) => {
    add(ids, space, id);
    return id;
  });
  const names = new Map<string, string>();
  for (const [space, here] of ids)
    for (const { own, id } of ownIds(db, source, space, "id", [...here])) names.set(space + id, own);
  return changeWithIds(change, (space, id) => names.get(space + id) ?? id);
}

/** By an id of a source's own: by which its people and groups are known here, where that is another. */
export async function principalsRenamed(db: Reads, source: string): Promise<Map<string, string>> {
  const rows = await db
    .selectFrom("own_id")
    .select(["own", "id"])
    .where("source", "=", source)
    .where("space", "=", "principal")
    .execute();
  return new Map(rows.filter(({ own, id }) => own !== id).map(({ own, id }) => [own, id]));
}

function add(ids: IdsBySpace, space: NameSpace, id: string) {
  const known = ids.get(space);
  if (known) known.add(id);
  else ids.set(space, new Set([id]));
}

/** By id: the name that it already has here, and which sources have claimed it. */
function knownNames(db: Reads, source: string, space: NameSpace, ids: string[]) {
  const owns = new Map(ownIds(db, source, space, "own", ids).map(({ own, id }) => [own, id]));
  const asked = ids.filter((id) => !owns.has(id));
  const holders = new Map<string, string[]>();
  for (const { id, holder } of asked.length > 0 ? holdersOf(db, source, space, asked) : [])
    holders.set(id, [...(holders.get(id) ?? []), holder]);
  return (id: string) => ({ own: owns.get(id), holders: holders.get(id) ?? [] });
}

function holdersOf(db: Reads, source: string, space: NameSpace, ids: string[]) {
  const types = TYPES_IN[space].map((type) => `'${type}'`).join(", ");
  const statement = db.prepare(`
    select distinct key as id, source as holder from fact
      where type in (${types}) and key in (select value from json_each(?))
    union select id, source from own_id
      where space = ? and source <> ? and id in (select value from json_each(?))`);
  const asked = JSON.stringify(ids);
  return statement.all(asked, space, source, asked) as { id: string; holder: string }[];
}

/** Stores are asked by thousands of changes, and tell of thousands of records: no query is built for each. */
function ownIds(db: Reads, source: string, space: NameSpace, by: "own" | "id", ids: string[]) {
  const statement = db.prepare(
    `select own, id from own_id where source = ? and space = ? and ${by} in (select value from json_each(?))`,
  );
  return statement.all(source, space, JSON.stringify(ids)) as { own: string; id: string }[];
}

/** Names of its own for what other sources have spoken for, by the ids that the source itself has for it. */
function namesApart(
  db: Tx,
  source: string,
  space: NameSpace,
  owns: string[],
  spokenOf: ReadonlySet<string>,
): Map<string, string> {
  const named = new Map<string, string>();
  // An id on the same page isn't free either, although nothing of it is stored yet.
  const given = new Set(spokenOf);
  let wanting = owns.map((own) => ({ own, id: `${source}:${own}` }));
  while (wanting.length > 0) {
    const known = knownNames(
      db,
      source,
      space,
      wanting.map(({ id }) => id),
    );
    const taken: typeof wanting = [];
    for (const { own, id } of wanting) {
      const { own: other, holders } = known(id);
      if (other !== undefined || holders.length > 0 || given.has(id)) taken.push({ own, id: `${source}:${id}` });
      else {
        given.add(id);
        named.set(own, id);
      }
    }
    wanting = taken;
  }
  return named;
}

function keepNames(db: Tx, source: string, space: NameSpace, named: readonly (readonly [own: string, id: string])[]) {
  const insert = db.prepare("insert into own_id (source, space, own, id) values (?, ?, ?, ?)");
  for (const [own, id] of named) insert.run(source, space, own, id);
}
