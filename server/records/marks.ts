import type { Db, Reads } from "../platform/db/open";

/** Up to where facts have been taken in. */
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

/** The last fact that a source told; 0 where it told none. Looked for from the end, where it mostly is. */
export function lastFactOf(db: Reads, source: string): number {
  const last = db.prepare("select id from fact where source = ? order by id desc limit 1").get(source);
  return (last as { id: number } | undefined)?.id ?? 0;
}

/** Stands for all that a source has told: where nothing was told since, or taken out, it is the same. */
export function toldSoFar(db: Reads, source: string): string {
  const { last } = db.prepare("select coalesce(max(seq), 0) as last from removal").get() as { last: number };
  return `${lastFactOf(db, source)},${last}`;
}
