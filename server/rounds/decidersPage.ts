import { type DecidedLine, type DecidersPage, LINES_A_PAGE, type MyRound } from "@/contract/decisions";
import { changeWords } from "@/core/changes/changeWords";
import { decisionSchema } from "@/core/rounds/decision";
import { MOST_PASSED_ON } from "@/core/rounds/line";
import type { LineOutlook } from "@/core/rounds/outlook";
import type { RuleId } from "@/core/rules/list";
import { RULES } from "@/core/rules/list";
import { grouped } from "@/core/text/grouped";
import { DAY } from "@/core/time/instant";
import type { DateSettings } from "@/core/time/style";
import { receiptsOfShares } from "../dockets/receipts";
import type { Asking } from "../engine/client";
import { type Reads, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import type { Line } from "./lines";
import { type Round, roundOf } from "./round";

/** Uses within this time count as recent. */
const LATELY_S = 90 * DAY;

/** Somebody in one round. */
export interface AsDecider {
  roundId: number;
  person: string;
}

/** The rounds that are or were open in which somebody has lines, the newest first. */
export async function myRounds(db: Reads, person: string): Promise<MyRound[]> {
  const rows = await db
    .selectFrom("round_tally")
    .innerJoin("round", "round.id", "round_tally.round_id")
    .select((eb) => [
      ...(["round.id", "round.body", "round.state", "round.closes_at"] as const),
      eb.fn.sum<number>("round_tally.lines").as("lines"),
      eb.fn.sum<number>("round_tally.lines").filterWhere("round_tally.state", "=", "open").as("open"),
    ])
    .where("decider", "=", person)
    .where("round_tally.lines", ">", 0)
    .where("round.state", "in", ["open", "closing", "closed", "stopped"])
    .groupBy("round.id")
    .orderBy("round.id", "desc")
    .execute();
  return rows.map(({ id, body, state, closes_at, lines, open }) => {
    const { name } = JSON.parse(body) as { name: string };
    return { round: id, name, state, closes: closes_at, lines: Number(lines), open: Number(open ?? 0) };
  });
}

/**
 * What somebody is asked to decide in a round, with what is known of it now. To open it counts as a sign of theirs: from
 * then on it is told how long they take. @throws {Problem} where they decide nothing in it
 */
export async function decidersPage(
  app: Asking,
  { roundId, person }: AsDecider,
  dates: Pick<DateSettings, "zone" | "style">,
): Promise<DecidersPage> {
  const round = await roundOf(app.db, roundId);
  const lines = await linesOf(app.db, roundId, person);
  if (round.state === "planned" || round.state === "opening") throw nothingToDecide();
  const finished = await sign(app, { roundId, person });
  const { asked } = round;
  const seen = await seenLines(app, round, lines, dates);
  return {
    ...{ round: roundId, name: asked.name, note: asked.note, state: round.state, person, closes: round.closes_at },
    ...{ by: asked.by, undecided: asked.undecided, undecidedDays: asked.undecidedDays },
    ...{ carriedOut: asked.carriedOut, limitDays: asked.limitDays, finished },
    ...(await totals(app.db, roundId, person)),
    lines: seen,
    files: await filesByAudience(app, seen),
  };
}

async function filesByAudience(app: Asking, lines: readonly DecidedLine[]): Promise<Record<string, number>> {
  const groups = grouped(lines, ({ audienceKey }) => audienceKey);
  const ids = [...groups.values()].map((all) => all.map(({ shareId }) => shareId));
  const counts = await app.engine.ask("filesTogether", { groups: ids });
  return Object.fromEntries([...groups.keys()].map((key, i) => [key, counts[i]]));
}

const nothingToDecide = () => new Problem("unknown", "You have nothing to decide in this round.");

/** What is shown of a line. */
const SEEN = [
  ...(["share_id", "place", "item_name", "sentence", "audience", "audience_key", "audience_title"] as const),
  ...(["asked", "suggested", "suggested_until", "because", "state", "decision", "settled_at"] as const),
  ...(["docket_id", "before", "passed_from"] as const),
] as const;
type SeenLine = Pick<Line, (typeof SEEN)[number]>;

async function linesOf(db: Reads, roundId: number, person: string): Promise<SeenLine[]> {
  const ids = db
    .selectFrom("round_line")
    .select("id")
    .where("round_id", "=", roundId)
    .where("decider", "=", person)
    // What can still be decided comes first: no page is so long that it hides that.
    .orderBy((eb) => eb.case().when("settled_at", "is", null).then(0).else(1).end())
    .orderBy("place")
    .orderBy("id")
    .limit(LINES_A_PAGE);
  const lines = await db
    .selectFrom("round_line")
    .select(SEEN)
    .where("id", "in", ids)
    .orderBy("place")
    .orderBy("id")
    .execute();
  if (lines.length === 0) throw nothingToDecide();
  return lines;
}

async function totals(db: Reads, roundId: number, person: string) {
  const { total, open } = await db
    .selectFrom("round_tally")
    .select((eb) => [
      eb.fn.sum<number>("lines").as("total"),
      eb.fn.sum<number>("lines").filterWhere("state", "=", "open").as("open"),
    ])
    .where("round_id", "=", roundId)
    .where("decider", "=", person)
    .executeTakeFirstOrThrow();
  return { total: Number(total), open: Number(open ?? 0) };
}

/** @returns when they said that they had finished */
async function sign({ db }: Asking, { roundId, person }: AsDecider): Promise<number | null> {
  const seen_at = db.clock.seconds();
  await writing(db, (tx) =>
    tx
      .insertInto("round_decider")
      .values({ round_id: roundId, person, seen_at, finished_at: null })
      .onConflict((conflict) => conflict.columns(["round_id", "person"]).doUpdateSet({ seen_at }))
      .execute(),
  );
  const row = await db
    .selectFrom("round_decider")
    .select("finished_at")
    .where("round_id", "=", roundId)
    .where("person", "=", person)
    .executeTakeFirstOrThrow();
  return row.finished_at;
}

async function seenLines(
  app: Asking,
  round: Round,
  lines: readonly SeenLine[],
  dates: Pick<DateSettings, "zone" | "style">,
): Promise<DecidedLine[]> {
  const ids = lines.map(({ share_id }) => share_id);
  const outlooks = await app.engine.ask("lineOutlooks", { ids, dates });
  const uses = await app.engine.ask("uses", { shares: ids, from: app.clock.seconds() - LATELY_S });
  const usedBy = new Map(uses.map(({ shareId, people }) => [shareId, people.length]));
  const dockets = [...new Set(lines.flatMap(({ docket_id }) => docket_id ?? []))];
  const receipts = grouped(await receiptsOfShares(app.db, dockets, ids), ({ shareId }) => shareId);
  return lines.map((line, i) => ({
    ...aboutNow(line, outlooks[i]),
    usedBy: usedBy.get(line.share_id) ?? 0,
    state: line.state,
    before: line.state === "open" ? line.before : null,
    decision: line.state === "open" || !line.decision ? null : decisionSchema.parse(JSON.parse(line.decision)),
    isSettled: line.settled_at !== null || round.state !== "open",
    passes: MOST_PASSED_ON - line.passed_from.split(" ").filter(Boolean).length,
    steps: (receipts.get(line.share_id) ?? [])
      .filter(({ docketId }) => docketId === line.docket_id)
      .map(({ change, state, answer, passphrase }) => ({ words: changeWords(change), state, answer, passphrase })),
  }));
}

/** A line that can still be decided is told as it is now, any other as it was when it was asked about. */
function aboutNow(line: SeenLine, now: LineOutlook | null) {
  const known = now && line.settled_at === null ? now : null;
  const { suggested } = known ?? {};
  const because = (line.because === "" ? [] : line.because.split(",")) as RuleId[];
  return {
    shareId: line.share_id,
    itemName: known?.itemName ?? line.item_name,
    place: known ? [known.storeName, ...known.place].join(" / ") : line.place,
    sentence: known?.sentence ?? line.sentence,
    audience: known?.audience ?? line.audience,
    audienceKey: known?.audienceKey ?? line.audience_key,
    audienceTitle: known?.audienceTitle ?? line.audience_title,
    label: now?.label ?? null,
    files: now?.files ?? 0,
    lastUsed: now?.lastUsed ?? null,
    isUseTold: now?.isUseTold ?? false,
    suggest: known ? (suggested?.suggest ?? null) : line.suggested,
    suggestedUntil: known ? (suggested?.until ?? null) : line.suggested_until,
    reasons: known?.reasons ?? because.map((rule) => ({ rule, title: RULES[rule].title, reason: "" })),
    tightenings: known?.tightenings ?? [],
    // A digest of what is shown: a decision is about that, not about what changes later.
    asked: known?.asked ?? line.asked,
  };
}
