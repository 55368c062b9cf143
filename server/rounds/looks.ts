import { randomBytes } from "node:crypto";
import type { LookLine, LookView } from "@/contract/rounds";
import { sampleSize } from "@/core/advice/sample";
import { drawn } from "@/core/rounds/draw";
import type { LineDecision } from "@/core/rounds/line";
import { RULES, type RuleId } from "@/core/rules/list";
import { UTC_DATES } from "@/core/time/style";
import type { Asking } from "../engine/client";
import { isAmong } from "../platform/db/among";
import { type Db, type Reads, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";
import { ofRound, roundStillIn } from "./round";

/** The confidence, in thousandths, that a sample contains a bad line if a given percentage are bad. */
interface Sampling {
  percent: number;
  confidence: number;
}

/**
 * Draws some of the lines that were kept, to be decided again. The seed goes into the ledger before anything is drawn.
 * @returns the look's number @throws {Problem} where nothing was kept
 */
export async function drawLook(
  db: Db,
  roundId: number,
  { percent, confidence }: Sampling,
  actor: string,
): Promise<number> {
  const { look, size, kept, seed } = await writing(db, async (tx) => {
    const round = await roundStillIn(tx, roundId, ["open", "closed"]);
    const kept = await keptIn(tx, roundId);
    if (kept.length === 0)
      throw new Problem("conflict", "Nothing has been kept in this round, so there is nothing to review again.");
    const size = sampleSize(kept.length, percent, confidence);
    const seed = randomBytes(16).toString("hex");
    const made = { made_by: actor, made_at: tx.clock.seconds() };
    const { id } = await tx
      .insertInto("look")
      .values({ round_id: roundId, percent, confidence, seed, of: kept.length, ...made })
      .returning("id")
      .executeTakeFirstOrThrow();
    const entry = { look: id, seed, of: kept.length, size, percent, confidence: String(confidence / 1_000) };
    await appendWithin(tx, actor, "look-drawn", { ...ofRound(round), ...entry });
    return { look: id, size, kept, seed };
  });
  const rows = drawn(seed, kept, size).map((share_id, position) => {
    return { look_id: look, share_id, position, decision: null, decided_by: null, decided_at: null };
  });
  await writing(db, async (tx) => {
    for (const row of rows) await tx.insertInto("look_line").values(row).execute();
  });
  return look;
}

async function keptIn(db: Reads, roundId: number): Promise<string[]> {
  const rows = await db
    .selectFrom("round_line")
    .select("share_id")
    .where("round_id", "=", roundId)
    .where("state", "=", "kept")
    .orderBy("share_id")
    .execute();
  return rows.map(({ share_id }) => share_id);
}

/** The second looks of a round, or one of them by its number. */
export async function looksOf(db: Reads, of: { round: number } | { look: number }): Promise<LookView[]> {
  const rows = await db
    .selectFrom("look")
    .leftJoin("look_line", "look_line.look_id", "look.id")
    .selectAll("look")
    .select((eb) => [
      eb.fn.count<number>("look_line.share_id").as("size"),
      eb.fn.count<number>("look_line.decision").as("decided"),
      eb.fn
        .count<number>("look_line.share_id")
        .filterWhere((where) =>
          where.and([where("look_line.decision", "is not", null), where("look_line.decision", "!=", "keep")]),
        )
        .as("differ"),
    ])
    .where("round" in of ? "look.round_id" : "look.id", "=", "round" in of ? of.round : of.look)
    .groupBy("look.id")
    .orderBy("look.id")
    .execute();
  return rows.map(({ id, percent, confidence, seed, of, size, decided, differ, made_by, made_at }) => ({
    ...{ id, percent, confidence, seed, of, madeBy: made_by, madeAt: made_at },
    ...{ size: Number(size), decided: Number(decided), differ: Number(differ) },
  }));
}

/** A second look with its lines, without what was first decided, why and by whom. */
export async function lookView(app: Asking, id: number): Promise<{ look: LookView; lines: LookLine[] }> {
  const [look] = await looksOf(app.db, { look: id });
  if (!look) throw new Problem("unknown", "There is no such second look.");
  const rows = await app.db
    .selectFrom("look_line")
    .innerJoin("look", "look.id", "look_line.look_id")
    .innerJoin("round_line", (join) =>
      join.onRef("round_line.round_id", "=", "look.round_id").onRef("round_line.share_id", "=", "look_line.share_id"),
    )
    .selectAll("round_line")
    .select("look_line.decision as again")
    .where("look_id", "=", id)
    .orderBy("position")
    .execute();
  const ids = rows.map(({ share_id }) => share_id);
  const now = await app.engine.ask("lineOutlooks", { ids, dates: UTC_DATES });
  const lines = rows.map((row, i) => ({
    ...{ shareId: row.share_id, itemName: row.item_name, place: row.place, sentence: row.sentence },
    suggest: row.suggested,
    reasons: titles(row.because),
    lastUsed: now[i]?.lastUsed ?? null,
    decision: row.again,
  }));
  return { look, lines };
}

const titles = (because: string) =>
  because
    .split(",")
    .filter(Boolean)
    .map((rule) => RULES[rule as RuleId].title);

/** Decides some lines of a second look; nothing is carried out. */
export function decideLook(
  db: Db,
  id: number,
  shares: readonly string[],
  decision: LineDecision,
  actor: string,
): Promise<void> {
  return writing(db, async (tx) => {
    const look = await tx.selectFrom("look").select("round_id").where("id", "=", id).executeTakeFirst();
    if (!look) throw new Problem("unknown", "There is no such second look.");
    const round = await roundStillIn(tx, look.round_id, ["open", "closed"]);
    const { numUpdatedRows } = await tx
      .updateTable("look_line")
      .set({ decision, decided_by: actor, decided_at: tx.clock.seconds() })
      .where("look_id", "=", id)
      .where(isAmong("share_id", shares))
      .executeTakeFirst();
    if (Number(numUpdatedRows) < shares.length)
      throw new Problem("unknown", "Some of these aren’t in this second look. Reload the page.");
    await appendWithin(tx, actor, "look-decided", { ...ofRound(round), look: id, shares: [...shares], decision });
  });
}
