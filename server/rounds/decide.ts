import type { DecidedAnswer } from "@/contract/decisions";
import { type Decision, whyNotKept } from "@/core/rounds/decision";
import { lineAfter, type LineState } from "@/core/rounds/line";
import type { LineOutlook } from "@/core/rounds/outlook";
import { DAY, seconds, type Seconds } from "@/core/time/instant";
import { UTC_DATES } from "@/core/time/style";
import type { Asking } from "../engine/client";
import type { InsiderTold } from "../engine/roundBook";
import { isAmong } from "../platform/db/among";
import { type Reads, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";
import type { AsDecider } from "./decidersPage";
import { type Line, updateLines } from "./lines";
import { ofRound, type Round, roundOf, roundStillIn } from "./round";

/** A line, with the digest of what was shown. */
export interface Shown {
  shareId: string;
  asked: string;
}

type Refused = DecidedAnswer["not"];

/**
 * Stores somebody's decision on some of their lines, for those that are still as shown and can be decided that
 * way. It can be changed until it is carried out. @returns how many, and for each of the others why not
 * @throws {Problem} where nothing can be decided any more
 */
export async function decideLines(
  app: Asking,
  { roundId, person }: AsDecider,
  shown: readonly Shown[],
  decision: Decision,
): Promise<DecidedAnswer> {
  const round = await checkOpen(app, roundId);
  const ids = shown.map(({ shareId }) => shareId);
  const outlooks = await app.engine.ask("lineOutlooks", { ids, dates: UTC_DATES });
  const own = await ownAmong(app, ids, person);
  const now = app.clock.seconds();
  const why = shown.map(({ shareId, asked }, i) =>
    own.has(shareId) ? IS_OWN : whyNot(outlooks[i], asked, decision, round, now),
  );
  const not: Refused = shown.flatMap(({ shareId }, i) => (why[i] === null ? [] : [{ shareId, why: why[i] }]));
  const meant = new Map(shown.flatMap(({ shareId }, i) => (why[i] === null ? [[shareId, outlooks[i]!]] : [])));
  return writing(app.db, async (tx) => {
    await checkStillOpen(tx, round);
    const lines = await theirLines(tx, { roundId, person }, [...meant.keys()]);
    const found = new Set(lines.map(({ share_id }) => share_id));
    for (const shareId of meant.keys()) if (!found.has(shareId)) not.push({ shareId, why: NOT_THEIRS });
    const open = lines.filter((line) => after(line, decision) !== null);
    for (const line of lines) if (!open.includes(line)) not.push({ shareId: line.share_id, why: IS_FINAL });
    await putDown(tx, { roundId, person }, open, decision, meant);
    if (open.length > 0) await note(tx, round, person, open, decision);
    return { decided: open.length, not };
  });
}

const NOT_THEIRS = "Somebody else now decides about this share.";
const IS_OWN = "This share gives you access, and nobody confirms their own. Pass it on to a colleague.";
const IS_FINAL = "This has already been carried out, or the share has ended.";
const IS_OVER = "This share has ended: it no longer lets anyone in.";
const HAS_CHANGED = "This share has changed since you opened the page. It is shown as it is now: decide again.";

/** Which of some shares let somebody in by name. @throws {Problem} where they decide nothing here any more */
async function ownAmong(app: Asking, ids: readonly string[], person: string): Promise<Set<string>> {
  const [{ isActive }] = await app.engine.ask("insiders", { addresses: [person] });
  if (!isActive)
    throw new Problem(
      "not-allowed",
      "Only active people with an address at one of our domains can decide. Tell whoever sent you this.",
    );
  const lines = ids.map((shareId) => ({ shareId, before: [] }));
  const why = await app.engine.ask("whyNotPassedOn", { lines, to: person });
  return new Set(ids.filter((_, i) => why[i] !== null));
}

async function checkOpen({ db }: Asking, roundId: number): Promise<Round> {
  const round = await roundOf(db, roundId);
  await checkStillOpen(db, round);
  return round;
}

/** Even if nobody has closed it yet, its time may be over. */
async function checkStillOpen(db: Reads, { id }: Round): Promise<void> {
  const { closes_at } = await roundStillIn(db, id, ["open"]);
  if (db.clock.seconds() >= closes_at)
    throw new Problem("conflict", "This round has closed: nothing more can be decided in it.");
}

function whyNot(
  now: LineOutlook | null,
  asked: string,
  decision: Decision,
  { asked: { limitDays } }: Round,
  t: Seconds,
) {
  if (!now || now.isOver) return IS_OVER;
  if (now.asked !== asked) return HAS_CHANGED;
  if (decision.decision === "keep") return whyNotKept(decision, now.suggested?.suggest ?? null, limitDays * DAY, t);
  const canBeTightened = now.tightenings.some(({ key }) => decision.decision !== "tighten" || key === decision.way);
  return decision.decision === "tighten" && !canBeTightened ? "Its store can’t tighten it that way." : null;
}

function theirLines(db: Reads, { roundId, person }: AsDecider, ids: readonly string[]): Promise<Line[]> {
  return db
    .selectFrom("round_line")
    .selectAll()
    .where("round_id", "=", roundId)
    .where("decider", "=", person)
    .where(isAmong("share_id", ids))
    .execute();
}

function after({ state, settled_at }: Line, { decision }: Decision): LineState | null {
  return lineAfter({ state, isCarriedOut: settled_at !== null, isClosed: false }, { decision });
}

/** The time taken for all is divided among them. */
async function putDown(
  tx: Tx,
  at: AsDecider,
  lines: readonly Line[],
  decision: Decision,
  outlooks: ReadonlyMap<string, LineOutlook>,
) {
  const now = tx.clock.seconds();
  const took = await sinceLastSign(tx, at, now);
  for (const line of lines) {
    const outlook = outlooks.get(line.share_id)!;
    await updateLines(tx, [line.id], {
      ...{ state: after(line, decision)!, decision: JSON.stringify(decision), asked: outlook.asked },
      reason: decision.decision === "keep" ? decision.reason || null : null,
      until: decision.decision === "keep" ? seconds(decision.until) : null,
      ...{ decided_by: at.person, decided_at: now, seconds: took / lines.length },
      overruled: Number(outlook.suggested !== null && outlook.suggested.suggest !== decision.decision),
    });
  }
}

/** @returns how long ago their last activity was; the count starts again now */
async function sinceLastSign(tx: Tx, { roundId, person }: AsDecider, now: Seconds): Promise<Seconds> {
  const mine = tx.updateTable("round_decider").where("round_id", "=", roundId).where("person", "=", person);
  const before = await tx
    .selectFrom("round_decider")
    .select("seen_at")
    .where("round_id", "=", roundId)
    .where("person", "=", person)
    .executeTakeFirst();
  await mine.set({ seen_at: now, finished_at: null }).execute();
  return Math.max(0, now - (before?.seen_at ?? now));
}

function note(tx: Tx, round: Round, person: string, lines: readonly Line[], decision: Decision): Promise<void> {
  const { decision: what, ...more } = decision;
  const shares = lines.map(({ share_id }) => share_id);
  const said = "reason" in more && more.reason === "" ? { until: more.until } : more;
  return appendWithin(tx, person, "lines-decided", { ...ofRound(round), shares, decision: what, ...said });
}

/** Who lines are passed on to, and why. */
export interface Passing {
  shares: readonly string[];
  to: string;
  reason: string;
}

/**
 * Passes lines on to a colleague, who is asked by mail. @param administrator who does it in place of whoever decides;
 * they may do so however often it has been passed on
 * @returns how many, and of each other why not
 */
export async function passOnLines(
  app: Asking,
  at: AsDecider,
  { shares, reason, ...passing }: Passing,
  administrator?: string,
): Promise<DecidedAnswer> {
  const round = await checkOpen(app, at.roundId);
  const to = passing.to.toLowerCase();
  const [colleague] = await app.engine.ask("insiders", { addresses: [to] });
  const lines = await theirLines(app.db, at, shares);
  const refused = await whyNotPassed(app, lines, to, administrator === undefined);
  return writing(app.db, async (tx) => {
    await checkStillOpen(tx, round);
    const still = new Map((await theirLines(tx, at, shares)).map((line) => [line.share_id, line]));
    const not: Refused = [];
    const passed: Line[] = [];
    for (const shareId of shares) {
      const line = still.get(shareId);
      const why = !line ? NOT_THEIRS : line.settled_at !== null ? IS_FINAL : (refused.get(shareId) ?? null);
      if (why === null) passed.push(line!);
      else not.push({ shareId, why });
    }
    const by = administrator ?? at.person;
    for (const line of passed) await passOn(tx, line, { ...colleague, address: to }, reason, by);
    if (passed.length > 0) {
      const ids = passed.map(({ share_id }) => share_id);
      await appendWithin(tx, by, "lines-passed-on", { ...ofRound(round), shares: ids, from: at.person, to, reason });
    }
    return { decided: passed.length, not };
  });
}

/** By share: why it can't be passed on to somebody. */
async function whyNotPassed(app: Asking, lines: readonly Line[], to: string, counts: boolean) {
  const asked = lines.map(({ share_id, passed_from }) => ({
    shareId: share_id,
    before: counts ? namesIn(passed_from) : [],
  }));
  const why = await app.engine.ask("whyNotPassedOn", { lines: asked, to });
  return new Map(lines.map(({ share_id, decider }, i) => [share_id, decider === to ? IS_THEIRS : why[i]]));
}

const IS_THEIRS = "They already decide about it. Choose another colleague.";
const namesIn = (text: string) => text.split(" ").filter(Boolean);

async function passOn(tx: Tx, line: Line, to: InsiderTold, reason: string, by: string): Promise<void> {
  const isByDecider = by === line.decider;
  await updateLines(tx, [line.id], {
    ...{ decider: to.address, decider_name: to.name, department: to.department ?? "" },
    ...{ decided_as: null, instead_of: null },
    ...(isByDecider && { passed_from: [...namesIn(line.passed_from), line.decider].join(" ") }),
    ...{ state: "open", until: null, reason: null, decided_by: null, decided_at: null, seconds: null, overruled: null },
  });
  const passing = { round_id: line.round_id, share_id: line.share_id, from: line.decider, to: to.address };
  await tx
    .insertInto("round_passing")
    .values({ ...passing, reason, by, at: tx.clock.seconds() })
    .execute();
  // Somebody who receives more lines is no longer finished.
  await tx
    .updateTable("round_decider")
    .set({ finished_at: null })
    .where("round_id", "=", line.round_id)
    .where("person", "=", to.address)
    .execute();
}
