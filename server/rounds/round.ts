import type { Selectable } from "kysely";
import { type RoundAsked, roundSchema } from "@/core/rounds/round";
import { rfc3339 } from "@/core/time/instant";
import type { Reads } from "../platform/db/open";
import type { RoundTable } from "../platform/db/schema";
import { Problem } from "../platform/problem";

export type RoundRow = Selectable<RoundTable>;

/** A round as it is kept, with what was asked for. */
export interface Round extends Omit<RoundRow, "body"> {
  asked: RoundAsked;
}

export function roundFrom({ body, ...row }: RoundRow): Round {
  const asked = roundSchema.parse(JSON.parse(body));
  return { ...row, asked: { ...asked, opens: rfc3339(row.opens_at), closes: rfc3339(row.closes_at) } };
}

/** @throws {Problem} where there is no such round */
export async function roundOf(db: Reads, id: number): Promise<Round> {
  const row = await db.selectFrom("round").selectAll().where("id", "=", id).executeTakeFirst();
  if (!row) throw new Problem("unknown", "There is no such round. Rounds lists them all.");
  return roundFrom(row);
}

export async function roundsIn(db: Reads, states: readonly RoundRow["state"][]): Promise<Round[]> {
  const rows = await db.selectFrom("round").selectAll().where("state", "in", states).orderBy("id").execute();
  return rows.map(roundFrom);
}

/** A round for somebody who acts on it. @throws {Problem} if it is no longer in any of some states */
export async function roundStillIn(db: Reads, id: number, states: readonly RoundRow["state"][]): Promise<Round> {
  const round = await roundOf(db, id);
  if (!states.includes(round.state)) throw new Problem("conflict", NO_LONGER[round.state]);
  return round;
}

const NO_LONGER: Record<RoundRow["state"], string> = {
  planned: "This round hasn’t opened yet.",
  opening: "This round is being opened. Try again in a moment.",
  open: "This round is already open.",
  closing: "This round is closing: nothing more can be decided in it.",
  closed: "This round has closed: nothing more can be decided in it.",
  stopped: "This round has been stopped: nothing more is carried out.",
};

/** What every ledger entry about a round begins with. */
export function ofRound({ id, asked }: Pick<Round, "id" | "asked">) {
  return { round: id, name: asked.name };
}
