import type { Db, Reads } from "../platform/db/open";

/** Up to which fact something has been read. */
export interface Mark {
  fact: number;
  removal: number;
}

/** How far the facts have come. */
export async function lastMark(db: Db): Promise<Mark> {
  const fact = await db
    .selectFrom("fact")
    .select((eb) => eb.fn.max("id").as("last"))
    .executeTakeFirst();
  const removal = await db
    .selectFrom("removal")
    .select((eb) => eb.fn.max("seq").as("last"))
    .executeTakeFirst();
  return { fact: Number(fact?.last ?? 0), removal: Number(removal?.last ?? 0) };
}

/** The last fact of a source; 0 if it has none. The search starts from the end, where it usually is. */
export function lastFactOf(db: Reads, source: string): number {
  const last = db.prepare("select id from fact where source = ? order by id desc limit 1").get(source);
  return (last as { id: number } | undefined)?.id ?? 0;
}

/** Identifies all that a source has reported: it stays the same until something is added or removed. */
export function toldSoFar(db: Reads, source: string): string {
  const { last } = db.prepare("select coalesce(max(seq), 0) as last from removal").get() as { last: number };
  return `${lastFactOf(db, source)},${last}`;
}
