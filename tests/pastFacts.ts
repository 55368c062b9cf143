import type { Sourced } from "@/core/estate/believed";
import type { Db } from "@/server/platform/db/open";
import { heldAt, sourced } from "@/server/records/facts";

/** Every record that held at an instant, straight from the facts; the engine goes back from what is so now instead. */
export async function recordsAt(db: Db, at: string): Promise<Sourced[]> {
  const rows = await db.selectFrom("fact").select(sourced.as("body")).where(heldAt(at)).orderBy("id").execute();
  return rows.map(({ body }) => JSON.parse(body));
}
