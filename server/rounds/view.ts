import type { DecisionView, DeciderView, RoundLine, RoundView } from "@/contract/rounds";
import { LINE_STATES, type LineState } from "@/core/rounds/line";
import { type Decided, qualityOf } from "@/core/rounds/quality";
import { recurrenceWords } from "@/core/rounds/recurrence";
import type { Seconds } from "@/core/time/instant";
import { grouped } from "@/core/text/grouped";
import { isAmong } from "../platform/db/among";
import type { Reads } from "../platform/db/open";
import { countsByRound, NO_LINES } from "./lines";
import { looksOf } from "./looks";
import { type Round, roundFrom, roundOf } from "./round";

const MOST_ROUNDS = 200;
const PAGE = 100;

/** All rounds: those that are open first, then those to come, then the others, the newest first. */
export async function roundLines(db: Reads): Promise<RoundLine[]> {
  const rows = await db.selectFrom("round").selectAll().orderBy("id", "desc").limit(MOST_ROUNDS).execute();
  const lines = await linesFor(db, rows.map(roundFrom));
  return lines.sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state) || byOpening(a, b));
}

/** What is to come: the next first; all else: the newest. */
const byOpening = (a: RoundLine, b: RoundLine) => (a.state === "planned" ? a.opens - b.opens : b.opens - a.opens);

const ORDER: RoundLine["state"][] = ["opening", "open", "closing", "planned", "closed", "stopped"];

async function linesFor(db: Reads, rounds: readonly Round[]): Promise<RoundLine[]> {
  const ids = rounds.map(({ id }) => id);
  const counts = await countsByRound(db, ids);
  const deciders = await decidersByRound(db, ids);
  return rounds.map(({ id, asked, state, opens_at, closes_at, lines }) => ({
    ...{ id, name: asked.name, state, opens: opens_at, closes: closes_at, repeats: repeatsOf(asked), lines },
    ...{ counts: counts.get(id)!, ...(deciders.get(id) ?? { deciders: 0, late: 0 }) },
  }));
}

const repeatsOf = ({ repeat, zone, opens }: Round["asked"]) =>
  repeat === null ? null : recurrenceWords({ rule: repeat, zone, first: Date.parse(opens) / 1_000 });

async function decidersByRound(db: Reads, ids: readonly number[]) {
  const rows = await db
    .selectFrom("round_line")
    .select((eb) => [
      "round_id",
      eb.fn.count<number>("decider").distinct().as("deciders"),
      eb.fn.count<number>("decider").distinct().filterWhere("state", "=", "open").as("late"),
    ])
    .where(isAmong("round_id", ids))
    .where("decider", "!=", "")
    .groupBy("round_id")
    .execute();
  return new Map(
    rows.map(({ round_id, deciders, late }) => [round_id, { deciders: Number(deciders), late: Number(late) }]),
  );
}

/** A round with what its page shows. @throws {Problem} where there is none */
export async function roundView(db: Reads, id: number): Promise<RoundView> {
  const round = await roundOf(db, id);
  const [line] = await linesFor(db, [round]);
  const { asked } = round;
  return {
    ...line,
    asked,
    repeatWords: line.repeats,
    ...{ madeBy: round.made_by, openedAt: round.opened_at, closedAt: round.closed_at, endedBy: round.ended_by },
    ...{ hash: round.lines_hash, docketId: round.docket_id },
    ...(await remarksOf(db, id)),
    departments: await departmentsOf(db, id),
    before: await roundBefore(db, round),
    next: await roundAfter(db, round),
    mails: await mailsOf(db, id),
    looks: await looksOf(db, { round: id }),
  };
}

async function remarksOf(db: Reads, roundId: number) {
  const row = await db
    .selectFrom("round_line")
    .select((eb) => [
      eb.fn.countAll<number>().filterWhere("decider", "=", "").as("nobodys"),
      eb.fn.count<number>("changed_at").as("changed"),
      eb.fn.countAll<number>().filterWhere("passed_from", "!=", "").as("passed"),
    ])
    .where("round_id", "=", roundId)
    .executeTakeFirstOrThrow();
  return { nobodys: Number(row.nobodys), changed: Number(row.changed), passed: Number(row.passed) };
}

async function departmentsOf(db: Reads, roundId: number) {
  const rows = await db
    .selectFrom("round_line")
    .select((eb) => [
      "department",
      eb.fn.countAll<number>().as("lines"),
      eb.fn.countAll<number>().filterWhere("state", "not in", ["open", "lapsed"]).as("decided"),
    ])
    .where("round_id", "=", roundId)
    .groupBy("department")
    .orderBy("department")
    .execute();
  return rows.map(({ department, lines, decided }) => ({ department, lines: Number(lines), decided: Number(decided) }));
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
  const rows = await db
    .selectFrom("round_line")
    .select((eb) => [
      "decider",
      eb.fn.countAll<number>().as("lines"),
      ...LINE_STATES.map((state) => eb.fn.countAll<number>().filterWhere("state", "=", state).as(state)),
    ])
    .where("round_id", "=", roundId)
    .groupBy("decider")
    .execute();
  const all = rows as unknown as (Record<LineState, number> & { decider: string; lines: number })[];
  all.sort((a, b) => b.open - a.open || b.lines - a.lines || (a.decider < b.decider ? -1 : 1));
  const page = all.slice(from, from + PAGE);
  const details = await detailsOf(
    db,
    roundId,
    page.map(({ decider }) => decider),
  );
  return {
    total: all.length,
    deciders: page.map(({ decider, lines, ...states }) => ({
      address: decider,
      lines,
      counts: { ...NO_LINES, ...Object.fromEntries(LINE_STATES.map((state) => [state, Number(states[state])])) },
      ...details(decider, lines),
    })),
  };
}

/** What is told of each of some deciders besides the count of their lines. */
async function detailsOf(db: Reads, roundId: number, deciders: readonly string[]) {
  const lines = await db
    .selectFrom("round_line")
    .select(["decider", "decider_name", "department", "suggested", "seconds", "decision", "state"])
    .where("round_id", "=", roundId)
    .where(isAmong("decider", deciders))
    .where((eb) => eb.or([eb("decided_at", "is not", null), eb("state", "=", "open"), eb("state", "=", "lapsed")]))
    .execute();
  const finished = await db
    .selectFrom("round_decider")
    .select(["person", "finished_at"])
    .where("round_id", "=", roundId)
    .execute();
  const written = await db
    .selectFrom("round_mail")
    .select((eb) => ["person", eb.fn.max("at").as("at")])
    .where("round_id", "=", roundId)
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
      name: theirs[0]?.decider_name ?? decider,
      department: theirs[0]?.department ?? "",
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
