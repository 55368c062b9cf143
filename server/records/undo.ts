import type { Beginning, Changes } from "@/core/access/days/changes";
import type { Held } from "@/core/access/history";
import type { Patch } from "@/core/access/standing";
import type { Forgettable } from "@/core/estate/estate";
import type { RecordType } from "@/core/estate/records";
import { seconds } from "@/core/time/instant";
import { type RawBuilder, sql } from "kysely";
import type { Db } from "../platform/db/open";
import { forgettable, forgettableFrom, heldFrom, sourced } from "./facts";

const PIECE = 20_000;

/**
 * What was otherwise at an instant than it is now: what to put, and what to take out, so that an estate of now becomes
 * that of then. What has come since the estate was last told may be among it.
 */
export async function otherwiseAt(db: Db, at: string): Promise<Patch> {
  const held: Held["record"][] = [];
  for await (const { record } of endedSince(db, at, sql<boolean>`("from" is null or "from" <= ${at})`))
    held.push(record);
  return { put: held, removed: await begunSince(db, at) };
}

/** What became otherwise from an instant up to now; since when items and shares have been as they are, the estate knows. */
export async function changesSince(db: Db, at: string): Promise<Changes> {
  const ended: Held[] = [];
  for await (const one of endedSince(db, at, sql<boolean>`true`)) ended.push(one);
  // A membership is one, whoever tells of it: it began where the first of them tells of it.
  const { rows } = await sql<{ type: RecordType; key: string; at: string }>`
    select type, key, min("from") as at from fact
      where type in ('estate', 'person', 'group', 'member') and +"from" > ${at} and "to" is null and not exists (select 1 from fact as other where fact.type = 'member'
        and other.type = 'member' and other.key = fact.key and other."to" is null
        and (other."from" is null or other."from" <= ${at}))
      group by type, key`.execute(db);
  return { ended, begun: rows.map(({ type, key, at }): Beginning => ({ type, key, from: seconds(at) })) };
}

/** What has ended since an instant. */
async function* endedSince(db: Db, at: string, narrow: RawBuilder<boolean>): AsyncGenerator<Held> {
  for (let behind: { to: string; id: number } = { to: at, id: Number.MAX_SAFE_INTEGER }; ;) {
    const rows = await db
      .selectFrom("fact")
      .select(["id", "from", "to", sourced.as("body")])
      .where("to", "is not", null)
      .where(sql<boolean>`("to", id) > (${behind.to}, ${behind.id})`)
      .where(narrow)
      .orderBy("to")
      .orderBy("id")
      .limit(PIECE)
      .execute();
    yield* rows.map(heldFrom);
    if (rows.length < PIECE) return;
    behind = rows[PIECE - 1] as { to: string; id: number };
  }
}

/** What exists now, or did for a while, and didn't then. */
async function begunSince(db: Db, at: string): Promise<Forgettable[]> {
  const { rows } = await sql<{ type: string; key: string; body: string | null }>`
    select type, key, ${forgettable} as body from fact
      where "from" > ${at} and type not in ('estate', 'event')
      and not exists (select 1 from fact as other where other.type = fact.type and other.key = fact.key
        and (fact.type <> 'party' or other.source = fact.source)
        and (other."from" is null or other."from" <= ${at}) and (other."to" is null or other."to" > ${at}))`.execute(
    db,
  );
  return rows.map(forgettableFrom);
}
