import type { Desk, DeskLine } from "@/contract/desk";
import type { DocketState } from "@/core/changes/states";
import { countWords, type DayWords } from "@/core/text/words";
import { within } from "@/core/text/text";
import { DAY, rfc3339, seconds, type Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { lookedAtDesk } from "./looks";
import { standingOrders } from "../dockets/standingOrders";
import { storesKnown } from "../stores/known";
import { connections } from "../stores/connections";
import { engagementLines } from "../engagements";
import { witnessLines } from "../evidence";
import { leaverLines } from "../leavers";
import { roundsNow } from "../rounds";
import { clearingLines } from "../clearing";
import { sharingLines } from "../sharing";
import { enforcingStopped, countOverdue, waiversEnding } from "../rules";
import { alerts } from "../trail";
import type { Asking } from "../engine/client";
import { handWorkCounts, stuckDockets, waitingDockets } from "../dockets/standing";
import { unsent } from "../messages/outbox";

const MOST_ALERTS = 6;
const MOST_OF_A_KIND = 20;
const ENDS_SOON_S = 14 * DAY;
const CLOSES_SOON_S = 3 * DAY;

/** What needs one person's attention, the most urgent first; their visit is noted. @param days how days are written for them */
export async function deskFor(app: Asking, person: string, days: DayWords): Promise<Desk> {
  const lookedBefore = await lookedAtDesk(app.db, person);
  const open = await alerts(app.db, ["new", "seen"]);
  const lines = [
    ...(await troubles(app.db)),
    ...(await witnessLines(app)),
    ...(await dockets(app.db)),
    ...(await byHand(app.db)),
    ...(await leaverLines(app, days)),
    ...(await engagementLines(app.db, days)),
    ...(await shares(app, lookedBefore, days)),
    ...(await sharingLines(app.db)),
    ...(await rules(app.db)),
    ...(await rounds(app.db, days)),
    ...(await clearingLines(app)),
    ...(await ordersDue(app.db, app.clock.seconds(), days)),
    ...(await waivers(app.db, app.clock.seconds(), days)),
  ];
  const more: DeskLine[] =
    open.length > MOST_ALERTS
      ? [
          {
            words: `${countWords(open.length - MOST_ALERTS, "more alert")} not settled.`,
            href: "/alerts",
            isPressing: true,
          },
        ]
      : [];
  const tightness = await app.engine.ask("tightness", {});
  return { lookedBefore, alerts: open.slice(0, MOST_ALERTS), lines: [...more, ...lines], tightness };
}

/** Problems of the application itself. */
async function troubles(db: Db): Promise<DeskLine[]> {
  const failing = (await connections(db)).filter(({ last_error }) => last_error !== null);
  const { aside, late } = await unsent(db);
  const behind = (await storesKnown(db)).filter(({ isLate, lastError }) => isLate && lastError === null);
  const lines = failing.map(({ name, last_error }) => ({
    words: `${name} can't be read: ${last_error}`,
    href: "/estate",
    isPressing: true,
  }));
  for (const { name, isRead } of behind)
    lines.push({
      words: isRead
        ? `${name} hasn’t been read for longer than usual.`
        : `No report of ${name} has been imported for longer than usual.`,
      href: isRead ? "/estate" : "/estate/imports",
      isPressing: false,
    });
  if (aside > 0)
    lines.push({
      words: `${countWords(aside, "message")} could not be sent within a day and ${aside === 1 ? "was" : "were"} given up.`,
      href: "/trail/watches",
      isPressing: true,
    });
  if (late > 0)
    lines.push({
      words: `${countWords(late, "message")} could not be sent yet and will be retried.`,
      href: "/estate",
      isPressing: true,
    });
  return lines;
}

/** Dockets that wait to go on, and changes that failed. */
async function dockets(db: Db): Promise<DeskLine[]> {
  const stuck = await stuckDockets(db);
  return stuck
    .filter(({ failed, unchecked, state }) => failed + unchecked > 0 || state === "paused")
    .map(({ id, state, failed, unchecked }) => ({
      words: stuckWords(state, failed, unchecked),
      href: `/ledger/dockets/${id}`,
      isPressing: true,
    }));
}

function stuckWords(state: DocketState, failed: number, unchecked: number): string {
  if (state === "paused") return "A docket is paused.";
  return failed > 0
    ? `${countWords(failed, "change")} of a docket failed.`
    : `${countWords(unchecked, "change")} of a docket could not be confirmed.`;
}

/** What somebody has to do in a store themselves. */
async function byHand(db: Db): Promise<DeskLine[]> {
  const dockets = await handWorkCounts(db);
  return dockets.map(({ docketId, count }) => ({
    words: `${countWords(count, "change")} to be done by hand.`,
    href: `/ledger/dockets/${docketId}/by-hand`,
    isPressing: false,
  }));
}

/** Dockets that rules put together, and what nobody has answered though its grace is over. */
async function rules(db: Db): Promise<DeskLine[]> {
  const waiting = await waitingDockets(db);
  const late = await countOverdue(db);
  const lines = waiting.map(({ id, words, askedBy, madeBy }) => ({
    words:
      askedBy === null
        ? `A docket from ${madeBy} is ready to review: ${words && within(words)}.`
        : `A docket from ${askedBy} is waiting for another administrator’s approval.`,
    href: `/ledger/dockets/${id}`,
    isPressing: true,
  }));
  if (late > 0)
    lines.push({
      words: `${countWords(late, "finding")} past the grace period, waiting to be ended.`,
      href: "/rules",
      isPressing: true,
    });
  const stop = await enforcingStopped(db);
  if (stop) lines.push({ words: `${stop.by} has stopped all enforcement.`, href: "/rules", isPressing: true });
  return lines;
}

/** Rounds that are open: who is still to decide, pressing once little time is left. */
async function rounds(db: Db, days: DayWords): Promise<DeskLine[]> {
  const now = db.clock.seconds();
  const open = await roundsNow(db);
  return open.slice(0, MOST_OF_A_KIND).map(({ id, name, closes, late }) => ({
    words:
      late === 0
        ? `Everybody has decided in the round “${name}”, which closes on ${days(closes)}.`
        : `${countWords(late, "person is", "people are")} still to decide in the round “${name}”, which closes on ${days(closes)}.`,
    href: `/rounds/${id}`,
    isPressing: late > 0 && closes - now < CLOSES_SOON_S,
  }));
}

async function ordersDue(db: Db, now: Seconds, days: DayWords): Promise<DeskLine[]> {
  const soon = (await standingOrders(db)).filter(({ on_at }) => seconds(on_at) <= now + ENDS_SOON_S);
  return soon.slice(0, MOST_OF_A_KIND).map(({ share_id, item_name, on_at }) => ({
    words: `A standing order revokes a share of ${item_name} on ${days(seconds(on_at))}.`,
    href: `/register?share=${encodeURIComponent(share_id)}`,
    isPressing: false,
  }));
}

async function shares(app: Asking, lookedBefore: string | null, days: DayWords): Promise<DeskLine[]> {
  const since = lookedBefore && `${lookedBefore.slice(0, 16)}Z`;
  const queries = ["state:live risk:very-high", "state:live risk:high"];
  if (since) queries.unshift(`outside:yes made:>=${since}`);
  const counts = await app.engine.ask("counts", { queries });
  const [high, highest] = [counts.pop()!, counts.pop()!];
  const line = (count: number, query: string, words: string, isPressing: boolean): DeskLine[] =>
    count === 0 ? [] : [{ words, href: `/register?${new URLSearchParams({ q: query })}`, isPressing }];
  return [
    ...(since
      ? line(
          counts[0],
          queries[0],
          `${countWords(counts[0], "outside share")} made since your last visit on ${days(seconds(lookedBefore!))}.`,
          false,
        )
      : []),
    ...line(highest, "state:live risk:very-high", `${countWords(highest, "share")} of very high risk.`, true),
    ...line(high, "state:live risk:high", `${countWords(high, "share")} of high risk.`, false),
  ];
}

async function waivers(db: Db, now: Seconds, days: DayWords): Promise<DeskLine[]> {
  const ending = await waiversEnding(db, rfc3339(now + ENDS_SOON_S));
  return ending.slice(0, MOST_OF_A_KIND).map(({ shareId, until }) => ({
    words: `A waiver ends on ${days(seconds(until))}.`,
    href: `/register?share=${encodeURIComponent(shareId)}`,
    isPressing: false,
  }));
}
