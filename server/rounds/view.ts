import type { DecisionView, DeciderView, RoundLine, RoundView } from "@/contract/rounds";
import type { LineState } from "@/core/rounds/line";
import { type Decided, qualityOf } from "@/core/rounds/quality";
import { recurrenceWords } from "@/core/rounds/recurrence";
import type { Seconds } from "@/core/time/instant";
import { grouped } from "@/core/text/grouped";
import { isAmong } from "../platform/db/among";
import type { Reads } from "../platform/db/open";
import { countsByRound } from "./lines";
import { looksOf } from "./looks";
import { type Round, roundFrom, roundOf } from "./round";
import { decidersFrom, type Tally, tallyOf } from "./tally";

const MOST_ROUNDS = 200;
const PAGE = 100;

/** All rounds: those that are open first, then those to come, then the others, the newest first. */
export async function roundLines(db: Reads): Promise<RoundLine[]> {
  const rows = await db.selectFrom("round").selectAll().orderBy("id", "desc").limit(MOST_ROUNDS).execute();
  const lines = await linesFor(db, rows.map(roundFrom));
  return lines.sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state) || byOpening(a, b));
}

/** Planned rounds: the next first; all others: the newest first. */
const byOpening = (a: RoundLine, b: RoundLine) => (a.state === "planned" ? a.opens - b.opens : b.opens - a.opens);

const ORDER: RoundLine["state"][] = ["opening", "open", "closing", "planned", "closed", "stopped"];

async function linesFor(db: Reads, rounds: readonly Round[]): Promise<RoundLine[]> {
  const lines: RoundLine[] = [];
  for (const round of rounds) lines.push(lineOf(round, await tallyOf(db, round.id)));
  return lines;
}

function lineOf({ id, asked, state, opens_at, closes_at, lines }: Round, tally: Tally): RoundLine {
  const { counts, deciders, late } = tally;
  return {
    ...{ id, name: asked.name, state, opens: opens_at, closes: closes_at, repeats: repeatsOf(asked), lines },
    ...{ counts, deciders, late },
  };
}

const repeatsOf = ({ repeat, zone, opens }: Round["asked"]) =>
  repeat === null ? null : recurrenceWords({ rule: repeat, zone, first: Date.parse(opens) / 1_000 });

/** A round with all that its page shows. @throws {Problem} if there is none */
export async function roundView(db: Reads, id: number): Promise<RoundView> {
  const round = await roundOf(db, id);
  const tally = await tallyOf(db, id);
  const line = lineOf(round, tally);
  const { asked } = round;
  return {
    ...line,
    asked,
    repeatWords: line.repeats,
    ...{ madeBy: round.made_by, openedAt: round.opened_at, closedAt: round.closed_at, endedBy: round.ended_by },
    ...{ hash: round.lines_hash, docketId: round.docket_id, changed: tally.changed, passed: tally.passed },
    ...{ nobodys: tally.nobodys, departments: tally.departments },
    before: await roundBefore(db, round),
    next: await roundAfter(db, round),
    mails: await mailsOf(db, id),
    looks: await looksOf(db, { round: id }),
  };
}

async function roundBefore(db: Reads, { series, opens_at }: Round): Promise<RoundView["before"]> {
  if (series === null) return null;
  const row = await db
    .selectFrom("round")
    .select(["id", "closed_at", "lines"])
    .where("series", "=", series)
    .where("opens_at", "<", opens_at)
    .orderBy("opens_at", "desc")
    .executeTakeFirst();
  if (!row) return null;
  const counts = (await countsByRound(db, [row.id])).get(row.id)!;
  return { id: row.id, closed: row.closed_at, lines: row.lines, counts };
}

async function roundAfter(db: Reads, { series, opens_at }: Round): Promise<RoundView["next"]> {
  if (series === null) return null;
  const row = await db
    .selectFrom("round")
    .select(["id", "opens_at"])
    .where("series", "=", series)
    .where("opens_at", ">", opens_at)
    .orderBy("opens_at")
    .executeTakeFirst();
  return row ? { id: row.id, opens: row.opens_at } : null;
}

async function mailsOf(db: Reads, roundId: number): Promise<RoundView["mails"]> {
  const rows = await db
    .selectFrom("round_mail")
    .select((eb) => ["stage", eb.fn.countAll<number>().as("people"), eb.fn.max("at").as("at")])
    .where("round_id", "=", roundId)
    .groupBy("stage")
    .orderBy("at")
    .execute();
  return rows.map(({ stage, people, at }) => ({ stage, people: Number(people), at: Number(at) }));
}

/** How far each decider has come, those with most left to decide first. */
export async function decidersOf(
  db: Reads,
  roundId: number,
  from: number,
): Promise<{ total: number; deciders: DeciderView[] }> {
  const { total, deciders } = await decidersFrom(db, roundId, { from, count: PAGE });
  const details = await detailsOf(
    db,
    roundId,
    deciders.map(({ decider }) => decider),
  );
  return {
    total,
    deciders: deciders.map(({ decider, name, department, lines, counts }) => ({
      ...{ address: decider, name, department, lines, counts },
      ...details(decider, lines),
    })),
  };
}

/** What is shown about some deciders besides the count of their lines. */
async function detailsOf(db: Reads, roundId: number, deciders: readonly string[]) {
  const lines = await db
    .selectFrom("round_line")
    .select(["decider", "suggested", "seconds", "decision"])
    .where("round_id", "=", roundId)
    .where(isAmong("decider", deciders))
    .where("decided_at", "is not", null)
    .execute();
  const finished = await db
    .selectFrom("round_decider")
    .select(["person", "finished_at"])
    .where("round_id", "=", roundId)
    .where(isAmong("person", deciders))
    .execute();
  const written = await db
    .selectFrom("round_mail")
    .select((eb) => ["person", eb.fn.max("at").as("at")])
    .where("round_id", "=", roundId)
    .where(isAmong("person", deciders))
    .where("stage", "!=", "manager")
    .groupBy("person")
    .execute();
  const finishedAt = new Map(finished.map(({ person, finished_at }) => [person, finished_at]));
  const writtenAt = new Map<string, Seconds>(written.map(({ person, at }) => [person, Number(at)]));
  const byDecider = grouped(lines, ({ decider }) => decider);
  return (decider: string, count: number) => {
    const theirs = byDecider.get(decider) ?? [];
    const decided = theirs.filter(({ seconds }) => seconds !== null).map(decidedFrom);
    const { overruled, medianSeconds, isUnlooked } = qualityOf(count, decided);
    return {
      finished: finishedAt.get(decider) ?? null,
      written: writtenAt.get(decider) ?? null,
      quality: { overruled, medianSeconds, isUnlooked },
    };
  };
}

function decidedFrom({
  decision,
  suggested,
  seconds,
}: {
  decision: string | null;
  suggested: Decided["suggested"] | null;
  seconds: number | null;
}): Decided {
  const what = (JSON.parse(decision!) as { decision: Decided["decision"] }).decision;
  // Where nothing was suggested, nothing is overruled.
  return { decision: what, suggested: suggested ?? what, seconds: seconds! };
}

/** Lines of a round, the last decided first. */
export async function decisionsOf(
  db: Reads,
  roundId: number,
  { from, state, decider }: { from: number; state?: LineState; decider?: string },
): Promise<{ total: number; lines: DecisionView[] }> {
  const asked = db
    .selectFrom("round_line")
    .where("round_id", "=", roundId)
    .$if(state !== undefined, (query) => query.where("state", "=", state!))
    .$if(decider !== undefined, (query) => query.where("decider", "=", decider!));
  const { total } = await asked.select((eb) => eb.fn.countAll<number>().as("total")).executeTakeFirstOrThrow();
  const rows = await asked.selectAll().orderBy("decided_at", "desc").orderBy("id").offset(from).limit(PAGE).execute();
  return {
    total: Number(total),
    lines: rows.map((row) => ({
      ...{ shareId: row.share_id, itemName: row.item_name, place: row.place, audience: row.audience, state: row.state },
      ...{ until: row.until, reason: row.reason, suggested: row.suggested, decider: row.decider, by: row.decided_by },
      ...{ at: row.decided_at, docketId: row.docket_id },
      ...{ isChanged: row.changed_at !== null, isPassed: row.passed_from !== "" },
    })),
  };
}
