import type { Seconds } from "@/core/time/instant";
import type { Reads } from "../platform/db/open";
import { roundFrom } from "./round";

/** Rounds that were open at some time between two instants, in the order in which they were made. */
export async function roundsBetween(db: Reads, from: Seconds, to: Seconds) {
  const rows = await db
    .selectFrom("round")
    .selectAll()
    .where("opened_at", "<=", to)
    .where((eb) => eb.or([eb("closed_at", "is", null), eb("closed_at", ">=", from)]))
    .orderBy("id")
    .execute();
  return rows.map(roundFrom);
}

const PIECE = 2_000;

/** The lines of a round with what was decided, piece by piece. */
export async function* decisionPieces(db: Reads, roundId: number) {
  for (let after = 0; ;) {
    const rows = await db
      .selectFrom("round_line")
      .select(["id", "round_id", "share_id", "item_name", "place", "audience", "decider", "state", "decision"])
      .select(["until", "reason", "decided_by", "decided_at", "seconds", "suggested", "docket_id"])
      .where("round_id", "=", roundId)
      .where("id", ">", after)
      .orderBy("id")
      .limit(PIECE)
      .execute();
    yield rows;
    if (rows.length < PIECE) return;
    after = rows[rows.length - 1].id;
  }
}

/** The dockets by which a round's decisions were carried out, the round's own among them. */
export async function docketsOfRound(db: Reads, roundId: number): Promise<string[]> {
  const rows = await db
    .selectFrom("round_line")
    .select("docket_id")
    .where("round_id", "=", roundId)
    .where("docket_id", "is not", null)
    .distinct()
    .union(db.selectFrom("round").select("docket_id").where("id", "=", roundId).where("docket_id", "is not", null))
    .execute();
  return rows.map(({ docket_id }) => docket_id!);
}
