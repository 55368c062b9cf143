import type { EstateRecord } from "@/core/estate/records";
import { recordKey } from "@/core/estate/records";
import type { Db } from "../db/open";

/** A record as a store or a file told of it. */
export interface Seen {
  record: EstateRecord;
  /** When it became so: the end of what held before, where we knew of it. */
  at: string;
  /** Since when it holds where we didn't know of it; null is "since before we looked". */
  since: string | null;
}

/**
 * Writes what was seen: where a thing is as we knew it, nothing; where it has changed, the old fact
 * ends and a new one begins. To be called within one `writing`, together with the cursor that says
 * how far the reading came: so a reading that is killed neither loses nor doubles anything.
 *
 * @returns how many facts are new or changed
 */
export async function keepFacts(db: Db, source: string, seen: readonly Seen[]): Promise<number> {
  let changed = 0;
  for (const one of seen) if (await keepFact(db, source, one)) changed++;
  return changed;
}

async function keepFact(db: Db, source: string, { record, at, since }: Seen): Promise<boolean> {
  const { type } = record;
  const key = recordKey(record);
  const body = JSON.stringify(record);
  const now = await db
    .selectFrom("fact")
    .select(["id", "body"])
    .where("type", "=", type)
    .where("key", "=", key)
    .where("to", "is", null)
    .executeTakeFirst();
  if (now?.body === body) return false;
  if (now) await db.updateTable("fact").set({ to: at }).where("id", "=", now.id).execute();
  const from = now ? at : since;
  await db.insertInto("fact").values({ source, type, key, body, from, to: null }).execute();
  return true;
}

/** When a thing that we see for the first time came to be, as far as its record tells. */
export function madeAt(record: EstateRecord): string | null {
  switch (record.type) {
    case "item":
    case "link":
      return record.createdAt;
    case "grant":
      return record.grantedAt;
    default:
      return null;
  }
}

/** Every record that holds now, in no particular order. */
export async function currentRecords(db: Db): Promise<EstateRecord[]> {
  const rows = await db.selectFrom("fact").select("body").where("to", "is", null).execute();
  return rows.map(({ body }) => JSON.parse(body));
}

/** Every record that held at an instant. What has no beginning that we saw, has held since before we looked. */
export async function recordsAt(db: Db, at: string): Promise<EstateRecord[]> {
  const rows = await db
    .selectFrom("fact")
    .select("body")
    .where((eb) => eb.or([eb("from", "is", null), eb("from", "<=", at)]))
    .where((eb) => eb.or([eb("to", "is", null), eb("to", ">", at)]))
    .execute();
  return rows.map(({ body }) => JSON.parse(body));
}
