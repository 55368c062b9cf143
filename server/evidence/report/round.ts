import type { RoundView } from "@/contract/rounds";
import { ACTION_TITLES } from "@/core/changes/changeWords";
import { type Report, type ReportSection, tableOf } from "@/core/evidence/report";
import type { LineState } from "@/core/rounds/line";
import { LINE_STATES } from "@/core/rounds/line";
import { begun } from "@/core/text/text";
import { countWords } from "@/core/text/words";
import { changesOf } from "../../dockets/between";
import type { Asking } from "../../engine/client";
import { decidersOf, decisionPieces, docketsOfRound, roundView } from "../../rounds";
import { figure, momentOf } from "./days";

/** What became of a line, in words. */
const STATE_TITLES: Record<LineState, string> = {
  open: "Not decided yet",
  kept: "Kept as it was",
  tightened: "Kept and tightened",
  ended: "Ended",
  gone: "Ended before anybody decided",
  lapsed: "Undecided when it closed",
};

/** What a round asked, what came of it, and how carefully. @throws {Problem} where there is none */
export async function roundReport(app: Asking, { round: id }: { round: number }): Promise<Report> {
  const round = await roundView(app.db, id);
  return {
    title: `Round: ${round.name}`,
    words: introduction(round),
    sections: [
      outcomeSection(round),
      departmentsSection(round),
      await decidersSection(app, id),
      looksSection(round),
      await carriedOutSection(app, id),
      await decisionsSection(app, id),
    ],
  };
}

function introduction({
  asked,
  openedAt,
  closedAt,
  closes,
  lines,
  deciders,
  nobodys,
  hash,
  endedBy,
}: RoundView): string {
  const scope = asked.query === "" ? "everything" : `what this query found: ${asked.query}`;
  const opened = openedAt === null ? "It hasn’t opened yet." : `It opened on ${momentOf(openedAt)}`;
  const closed =
    closedAt === null
      ? ` and closes on ${momentOf(closes)}.`
      : ` and closed on ${momentOf(closedAt)}${endedBy ? `, by ${endedBy}` : ""}.`;
  return (
    `It asked about ${scope}. ${opened}${openedAt === null ? "" : closed} ` +
    `${countWords(lines, "share")} and ${countWords(deciders, "decider")}; left to the administrators: ${figure(nobodys)}. ` +
    (hash === null ? "" : `SHA-256 of the shares’ ids: ${hash}. `) +
    "Times are UTC."
  );
}

function outcomeSection({ counts, lines, changed, passed }: RoundView): ReportSection {
  const decided = lines - (counts.open ?? 0) - (counts.lapsed ?? 0);
  const percent = lines === 0 ? 0 : Math.floor((100 * decided) / lines);
  const rows = LINE_STATES.map((state) => [STATE_TITLES[state], figure(counts[state] ?? 0)]);
  return {
    title: "What came of it",
    words:
      `${figure(decided)} of ${countWords(lines, "line")} are decided or ended, ${percent}%. ` +
      `Asked again because the share had changed: ${figure(changed)}. Passed on to a colleague: ${figure(passed)}.`,
    table: tableOf(["Outcome", "Lines"], rows, [1]),
  };
}

function departmentsSection({ departments }: RoundView): ReportSection {
  return {
    title: "By department",
    words: "",
    table: tableOf(
      ["Department", "Lines", "Decided or ended"],
      departments.map(({ department, lines, decided }) => [department || "none", figure(lines), figure(decided)]),
      [1, 2],
    ),
  };
}

async function decidersSection({ db }: Asking, id: number): Promise<ReportSection> {
  const all = [];
  for (let from = 0; ;) {
    const { total, deciders } = await decidersOf(db, id, from);
    all.push(...deciders);
    from += deciders.length;
    if (from >= total || deciders.length === 0) break;
  }
  const unlooked = all.filter(({ quality }) => quality.isUnlooked).length;
  return {
    title: "Who decided, and how carefully",
    words:
      "Against: how often they decided against the suggestion. Seconds: the median time of their decisions. " +
      (unlooked === 0
        ? "Nobody decided suspiciously fast."
        : `${countWords(unlooked, "decider")} kept many lines suspiciously fast.`),
    table: tableOf(
      ["Decider", "Department", "Lines", "To decide", "Kept", "Tightened", "Ended", "Against", "Seconds"],
      all.map(({ address, name, department, lines, counts, quality }) => [
        ...[address === "" ? "Administrators" : name, department],
        ...[lines, counts.open ?? 0, counts.kept ?? 0, counts.tightened ?? 0, counts.ended ?? 0, quality.overruled].map(
          figure,
        ),
        quality.medianSeconds === null ? "" : String(quality.medianSeconds),
      ]),
      [2, 3, 4, 5, 6, 7, 8],
    ),
  };
}

function looksSection({ looks }: RoundView): ReportSection {
  return {
    title: "Second look",
    words:
      looks.length === 0
        ? "No sample of kept shares was reviewed again."
        : "Random samples of kept shares, drawn with the seed recorded in the ledger beforehand.",
    table: tableOf(
      ["Drawn", "By", "Of", "Size", "Decided", "Differ", "Seed"],
      looks.map(({ madeAt, madeBy, of, size, decided, differ, seed }) => [
        ...[momentOf(madeAt), madeBy],
        ...[of, size, decided, differ].map(figure),
        seed,
      ]),
      [2, 3, 4, 5],
    ),
  };
}

async function carriedOutSection({ db }: Asking, id: number): Promise<ReportSection> {
  const dockets = await docketsOfRound(db, id);
  const changes = await changesOf(db, dockets);
  return {
    title: "What was carried out",
    words: dockets.length === 0 ? "Nothing had to be carried out." : `By ${countWords(dockets.length, "docket")}.`,
    table: tableOf(
      ["What", "Came to", "Changes"],
      changes.map(({ action, state, count }) => [ACTION_TITLES[action], state, figure(count)]),
      [2],
    ),
  };
}

async function decisionsSection({ db }: Asking, id: number): Promise<ReportSection> {
  const rows: string[][] = [];
  for await (const piece of decisionPieces(db, id))
    for (const one of piece)
      rows.push([
        ...[one.item_name, one.place, one.audience, begun(STATE_TITLES[one.state])],
        ...[one.decided_by ?? "", one.decided_at === null ? "" : momentOf(one.decided_at), one.reason ?? ""],
      ]);
  return {
    title: "Every line",
    words: "",
    table: tableOf(["Item", "Where", "Audience", "Outcome", "Decided by", "At", "Reason"], rows),
  };
}
