import type { Seconds } from "@/core/time/instant";
import { seconds } from "@/core/time/instant";
import type { Reads } from "../platform/db/open";

/**
 * By id of the share: until when somebody has confirmed that it may stay; the latest of several.
 * @param at the instant that is asked about; null for now
 */
export async function confirmationsAt(db: Reads, at: string | null): Promise<Map<string, Seconds>> {
  const rows = await db
    .selectFrom("round_line")
    .select((eb) => ["share_id", eb.fn.max("until").as("until")])
    .where("state", "=", "kept")
    .where("until", "is not", null)
    .$if(at !== null, (query) => query.where("decided_at", "<=", seconds(at!)))
    .groupBy("share_id")
    .execute();
  return new Map(rows.map(({ share_id, until }) => [share_id, Number(until)]));
}

/** Ids of the shares that a round asks about, by its number. */
export async function sharesOfRound(db: Reads, id: string): Promise<string[]> {
  const rows = await db
    .selectFrom("round_line")
    .innerJoin("round", "round.id", "round_line.round_id")
    .select("share_id")
    .where("round_id", "=", Number(id))
    .where("round.state", "!=", "opening")
    .execute();
  return rows.map(({ share_id }) => share_id);
}
