import { TZDate } from "@date-fns/tz";
import { subMonths } from "date-fns/subMonths";
import type { OutsideCount } from "@/core/access/history";
import { ACTION_TITLES } from "@/core/changes/changeWords";
import { LATCH_WORDS, LATCHES } from "@/core/changes/latches";
import { type Report, type ReportSection, tableOf } from "@/core/evidence/report";
import { LABELS } from "@/core/estate/records";
import { begun } from "@/core/text/text";
import { countWords } from "@/core/text/words";
import { NEVER, rfc3339, seconds, type Seconds } from "@/core/time/instant";
import { changesDone, revokedBetween } from "../../dockets/between";
import type { Asking } from "../../engine/client";
import { roundsBetween } from "../../rounds";
import { countOverdue, waiversBetween } from "../../rules";
import { completeSection } from "./complete";
import { dayOf, endOfDay, figure, pastOr } from "./days";
import { figuresSection, findingsSection, OUTSIDE } from "./figures";

const MONTHS = 12;
const RISKIEST = 10;

/** How much is open on a day, how that has developed, and what was done about it in the month before. */
export async function stateReport(app: Asking, { day }: { day: string }): Promise<Report> {
  const at = endOfDay(app, day);
  const before = monthsBefore(at, 1);
  return {
    title: `Sharing outside on ${dayOf(at)}`,
    words:
      "Who outside can reach our files, how that has changed over a month and a year, and what was done " +
      "about it. A share is a link or a grant; an outside share lets in somebody who doesn’t work here. " +
      "Times are in UTC.",
    sections: [
      await figuresSection(app, [before, at], "Live outside shares a month before and on the day."),
      await yearSection(app, at),
      await findingsSection(app, at),
      await tightnessSection(app, at),
      await riskiestSection(app, at),
      await doneSection(app, before, at),
      await backSection(app, at),
      await decidedSection(app, before, at),
      await completeSection(app, before, at),
    ],
  };
}

const monthsBefore = (at: Seconds, months: number): Seconds =>
  subMonths(new TZDate(at * 1_000, "UTC"), months).getTime() / 1_000;

const WAYS: [Exclude<keyof OutsideCount, "at">, string][] = [
  ["open", "Open links"],
  ["named", "Named links"],
  ["person", "Grants to people"],
  ["group", "Grants to groups"],
];

async function yearSection(app: Asking, at: Seconds): Promise<ReportSection> {
  const instants = Array.from({ length: MONTHS + 1 }, (_, i) => monthsBefore(at, MONTHS - i));
  const counts = await app.engine.ask("history", { instants });
  const labels = counts.map((one) => dayOf(one.at));
  const all = (one: OutsideCount) => WAYS.reduce((sum, [way]) => sum + one[way], 0);
  const rows = counts.map((one, i) => [labels[i], ...WAYS.map(([way]) => figure(one[way])), figure(all(one))]);
  return {
    title: "The twelve months before",
    words: "Live outside shares by how they let people in.",
    chart: { labels, lines: WAYS.map(([way, name]) => ({ name, values: counts.map((one) => one[way]) })) },
    table: tableOf(["Day", ...WAYS.map(([, name]) => name), "Total"], rows, [1, 2, 3, 4, 5]),
  };
}

async function tightnessSection(app: Asking, at: Seconds): Promise<ReportSection> {
  const cells = await app.engine.ask("tightness", {}, pastOr(app, at));
  const cell = (label: string, latch: string) => {
    const { shut, should } = cells.find((one) => one.label === label && one.latch === latch)!;
    return should === 0 ? "none" : `${figure(shut)} of ${figure(should)}`;
  };
  const rows = [...LABELS].reverse().map((label) => [begun(label), ...LATCHES.map((latch) => cell(label, latch))]);
  return {
    title: "How tightly outside shares are shut",
    words:
      "Of the shares that should have an end date, a password, a download block or named people only: how many do, by label.",
    table: tableOf(["Label", ...LATCHES.map((latch) => LATCH_WORDS[latch])], rows, [1, 2, 3, 4]),
  };
}

async function riskiestSection(app: Asking, at: Seconds): Promise<ReportSection> {
  const asked = { query: OUTSIDE, order: [{ by: "risk" as const, reversed: false }], count: RISKIEST };
  const rows = await app.engine.ask("some", asked, pastOr(app, at));
  return {
    title: "The ten riskiest",
    words: rows.length === 0 ? "No outside shares." : "Riskiest first.",
    table: tableOf(
      ["Item", "Where", "Audience", "Risk", "Ends"],
      rows.map(({ itemName, storeName, place, audience, risk, expires }) => [
        ...[itemName, [storeName, ...place].join(" / "), audience, begun((risk ?? "none").replace("-", " "))],
        expires === NEVER ? "never" : dayOf(expires),
      ]),
    ),
  };
}

/** What was closed, and by whom. */
async function doneSection({ db }: Asking, from: Seconds, to: Seconds): Promise<ReportSection> {
  const done = await changesDone(db, rfc3339(from), rfc3339(to));
  const sum = done.reduce((total, { count }) => total + count, 0);
  return {
    title: "What was done in the month, by docket",
    words: sum === 0 ? "No changes were carried out." : `${countWords(sum, "change")} carried out, each by a docket.`,
    table: tableOf(
      ["What", "Docket applied by", "Changes"],
      done.map(({ action, by, count }) => [ACTION_TITLES[action], by ?? "", figure(count)]),
      [2],
    ),
  };
}

/** Shares that a docket revoked within the year and that give access again. */
async function backSection(app: Asking, at: Seconds): Promise<ReportSection> {
  const revoked = await revokedBetween(app.db, rfc3339(monthsBefore(at, MONTHS)), rfc3339(at));
  const ids = [...new Set(revoked.map(({ share_id }) => share_id))];
  const rows = await app.engine.ask("rows", { ids }, pastOr(app, at));
  const live = new Set(rows.filter(({ state }) => state === "live").map(({ id }) => id));
  // If a share was revoked more than once, the last time counts.
  const lastOf = new Map(revoked.toReversed().map((one) => [one.share_id, one]));
  const back = [...lastOf.values()].filter(({ share_id }) => live.has(share_id));
  return {
    title: "What came back",
    words:
      back.length === 0
        ? `None of the ${countWords(ids.length, "share")} revoked by dockets in the twelve months was live again.`
        : "Shares revoked by a docket that were live again on the day.",
    table: tableOf(
      ["Item", "Revoked", "By", "Share"],
      back.map(({ item_name, answered_at, by, share_id }) => [
        item_name,
        dayOf(seconds(answered_at)),
        by ?? "",
        share_id,
      ]),
    ),
  };
}

/** Rounds, waivers, and what waits too long. */
async function decidedSection(app: Asking, from: Seconds, to: Seconds): Promise<ReportSection> {
  const rounds = await roundsBetween(app.db, from, to);
  const waivers = await waiversBetween(app.db, rfc3339(from), rfc3339(to));
  const given = waivers.filter(({ given_at }) => seconds(given_at) >= from);
  const open = rounds.filter(({ state }) => state === "open");
  const overdue = open.filter(({ closes_at }) => closes_at <= to);
  return {
    title: "What was decided and what is overdue",
    words: "Rounds, waivers and findings in the month. Findings past their grace period are counted as of now.",
    table: tableOf(
      ["What", "How many"],
      [
        ["Rounds that were open", figure(rounds.length)],
        ["Rounds still open past their deadline", figure(overdue.length)],
        ["Waivers in force", figure(waivers.length)],
        ["Waivers given", figure(given.length)],
        ["Findings past their grace period, now", figure(await countOverdue(app.db))],
      ],
      [1],
    ),
  };
}
