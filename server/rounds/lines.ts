import { type Insertable, type Selectable, sql } from "kysely";
import { hashOfLines } from "@/core/rounds/draw";
import { LINE_STATES, type LineState } from "@/core/rounds/line";
import type { Asking } from "../engine/client";
import type { DecidingAsked, LineOpened } from "../engine/roundBook";
import { isAmong } from "../platform/db/among";
import { type Reads, runForEach, type Tx } from "../platform/db/open";
import type { RoundLineTable } from "../platform/db/schema";

export type Line = Selectable<RoundLineTable>;
export type LineCounts = Record<LineState, number>;

export const NO_LINES: LineCounts = Object.fromEntries(LINE_STATES.map((state) => [state, 0])) as LineCounts;

/** Lines for some shares, as they are stored; null for a share that is no longer known. */
export async function linesOpened(
  { engine }: Asking,
  ids: string[],
  deciding: DecidingAsked,
): Promise<(LineOpened | null)[]> {
  return JSON.parse(await engine.ask("linesOpened", { ids, deciding }));
}

/** The columns of a stored line, in the order of the values from `valuesOf`. */
const COLUMNS = [
  ...(["round_id", "share_id", "state", "decider", "decider_name", "decided_as", "instead_of", "department"] as const),
  ...(["item_name", "place", "audience", "audience_key", "audience_title", "sentence", "asked"] as const),
  ...(["suggested", "suggested_until", "because"] as const),
] as const satisfies (keyof Insertable<RoundLineTable>)[];

/** A line to be stored: for a share, or for one that was gone before anything was known of it. */
export type Opened = LineOpened | { gone: string };

/** An array: building objects for a quarter of a million lines would take longer than all the rest. */
function valuesOf(roundId: number, line: Opened): (string | number | null)[] {
  if ("gone" in line)
    return [
      ...[roundId, line.gone, "gone", "", "", null, null, ""],
      ...["A share that no longer exists", "", "", "", "", "", "", null, null, ""],
    ];
  const { decider, suggested } = line;
  return [
    roundId,
    line.shareId,
    "open",
    decider?.address ?? "",
    decider?.name ?? "",
    decider?.as ?? null,
    decider?.insteadOf ?? null,
    decider?.department ?? "",
    line.itemName,
    placeWords(line),
    line.audience,
    line.audienceKey,
    line.audienceTitle,
    line.sentence,
    line.asked,
    suggested?.suggest ?? null,
    suggested?.until ?? null,
    suggested?.because.join() ?? "",
  ];
}

const placeWords = ({ storeName, place }: Pick<LineOpened, "storeName" | "place">) => [storeName, ...place].join(" / ");

/** Stores lines with one prepared statement: rounds have hundreds of thousands. */
export function insertLines(tx: Tx, roundId: number, lines: readonly Opened[]): void {
  const values = COLUMNS.map(() => "?").join(", ");
  runForEach(
    tx,
    `insert into round_line (${COLUMNS.join(", ")}) values (${values})`,
    lines.map((line) => valuesOf(roundId, line)),
  );
}

const NOBODY = { decider: "", decider_name: "", decided_as: null, instead_of: null };

/** Who decides about a line. */
export function deciderColumns({ decider }: Pick<LineOpened, "decider">) {
  if (!decider) return { ...NOBODY, department: "" };
  const { address, name, department, as, insteadOf } = decider;
  return { decider: address, decider_name: name, decided_as: as, instead_of: insteadOf, department: department ?? "" };
}

/** What a line asks about. */
export function aboutColumns(line: Omit<LineOpened, "decider" | "shareId">) {
  return {
    item_name: line.itemName,
    place: placeWords(line),
    audience: line.audience,
    audience_key: line.audienceKey,
    audience_title: line.audienceTitle,
    sentence: line.sentence,
    asked: line.asked,
    suggested: line.suggested?.suggest ?? null,
    suggested_until: line.suggested?.until ?? null,
    because: line.suggested?.because.join() ?? "",
  };
}

/** How many lines of some rounds are in each state. */
export async function countsByRound(db: Reads, ids: readonly number[]): Promise<Map<number, LineCounts>> {
  const rows = await db
    .selectFrom("round_tally")
    .select((eb) => ["round_id", "state", eb.fn.sum<number>("lines").as("count")])
    .where("round_id", "in", ids)
    .groupBy(["round_id", "state"])
    .execute();
  const counts = new Map(ids.map((id) => [id, { ...NO_LINES }]));
  for (const { round_id, state, count } of rows) counts.get(round_id)![state] = Number(count);
  return counts;
}

export async function countsOf(db: Reads, roundId: number): Promise<LineCounts> {
  return (await countsByRound(db, [roundId])).get(roundId)!;
}

/** Proves which shares a round asked about: SHA-256 of their ids, sorted. */
export async function hashOfShares(db: Reads, roundId: number): Promise<string> {
  const rows = await db.selectFrom("round_line").select("share_id").where("round_id", "=", roundId).execute();
  return hashOfLines(rows.map(({ share_id }) => share_id));
}

/** Proves how each of its lines ended. */
export async function hashOfOutcome(db: Reads, roundId: number): Promise<string> {
  const rows = await db
    .selectFrom("round_line")
    .select(["share_id", "state"])
    .where("round_id", "=", roundId)
    .execute();
  return hashOfLines(rows.map(({ share_id, state }) => `${share_id} ${state}`));
}

const PIECE = 2_000;

/** What is needed of a line that isn't final yet to see what becomes of it. */
const UNSETTLED = ["id", "share_id", "asked", "sentence", "decider", "decided_as", "state", "decision"] as const;
export type Unsettled = Pick<Line, (typeof UNSETTLED)[number]>;

/** Lines of a round that aren't final yet, in pieces. */
export async function* unsettledLines(db: Reads, roundId: number): AsyncGenerator<Unsettled[]> {
  for (let after = 0; ;) {
    const lines = await db
      .selectFrom("round_line")
      .select(UNSETTLED)
      // In the order of lines: by the round's index, each piece would read the whole round again.
      .where(sql<boolean>`+round_id = ${roundId}`)
      .where("settled_at", "is", null)
      .where("state", "!=", "gone")
      .where("id", ">", after)
      .orderBy("id")
      .limit(PIECE)
      .execute();
    if (lines.length === 0) return;
    yield lines;
    after = lines[lines.length - 1].id;
  }
}

/** Changes those lines of a round that are still as they were when they were read. */
export async function updateLines(tx: Tx, ids: readonly number[], set: Partial<Line>): Promise<number> {
  if (ids.length === 0) return 0;
  const { numUpdatedRows } = await tx
    .updateTable("round_line")
    .set(set)
    .where(isAmong("id", ids))
    .where("settled_at", "is", null)
    .executeTakeFirst();
  return Number(numUpdatedRows);
}
