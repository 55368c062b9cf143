import type { Patch } from "@/core/access/standing";
import type { Forgettable } from "@/core/estate/estate";
import type { Sourced } from "@/core/estate/believed";
import { sql } from "kysely";
import type { Db } from "../platform/db/open";
import { forgettable, forgettableFrom, sourced } from "./facts";

const PIECE = 20_000;

/**
 * What was otherwise at an instant than it is now: what to put, and what to take out, so that an estate of now becomes
 * that of then. What has come since the estate was last told may be among it.
 */
export async function otherwiseAt(db: Db, at: string): Promise<Patch> {
  return { put: await bodiesEndedSince(db, at), removed: await begunSince(db, at) };
}

/** What held then and has ended since. */
async function bodiesEndedSince(db: Db, at: string): Promise<Sourced[]> {
  const found: Sourced[] = [];
  for (let behind: { to: string; id: number } = { to: at, id: Number.MAX_SAFE_INTEGER }; ;) {
    const rows = await db
      .selectFrom("fact")
      .select(["id", "to", sourced.as("body")])
      .where("to", "is not", null)
      .where(sql<boolean>`("to", id) > (${behind.to}, ${behind.id})`)
      .where(sql<boolean>`("from" is null or "from" <= ${at})`)
      .orderBy("to")
      .orderBy("id")
      .limit(PIECE)
      .execute();
    for (const { body } of rows) found.push(JSON.parse(body));
    if (rows.length < PIECE) return found;
    behind = rows[PIECE - 1] as { to: string; id: number };
  }
}

/** What is told of now, or was for a while, and wasn't yet there then. */
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
