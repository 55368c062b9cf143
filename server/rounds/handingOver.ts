import type { DecidedAnswer } from "@/contract/decisions";
import type { Asking } from "../engine/client";
import { passOnLines } from "./decide";

/** Lets an administrator pass everything that somebody still has to decide to somebody else. */
export async function handOver(
  app: Asking,
  roundId: number,
  { from, to, reason }: { from: string; to: string; reason: string },
  actor: string,
): Promise<{ moved: number; not: DecidedAnswer["not"] }> {
  const person = from.toLowerCase();
  const rows = await app.db
    .selectFrom("round_line")
    .select("share_id")
    .where("round_id", "=", roundId)
    .where("decider", "=", person)
    .where("state", "=", "open")
    .execute();
  const shares = rows.map(({ share_id }) => share_id);
  const { decided, not } = await passOnLines(app, { roundId, person }, { shares, to, reason }, actor);
  return { moved: decided, not };
}
