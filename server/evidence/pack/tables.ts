import type { PackTable } from "@/core/evidence/pack";
import type { Naming } from "@/core/evidence/pseudonyms";
import { changeWords } from "@/core/changes/changeWords";
import type { Change } from "@/core/changes/change";
import { cellsOf, HEADS, safeCell } from "@/core/register/cells";
import { csvCell } from "@/core/text/csv";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { docketsBetween, receiptsOf } from "../../dockets/between";
import type { AskingEstate } from "../../engine/client";
import type { Platform } from "../../platform/platform";
import { eventsNewestFirst } from "../../records/events/events";
import { rowPieces } from "../../register";
import { decisionPieces, roundsBetween } from "../../rounds";
import { waiversBetween } from "../../rules";
import { readingDays } from "../../stores/readingDays";
import { EVENT_HEADS, eventCells } from "../../trail";

/** What a pack is about. */
export interface PackSpan {
  /** Its first day and its last, as in 2026-11-30, and when these begin and end; of a day that isn't over, now. */
  days: [from: string, to: string];
  from: Seconds;
  to: Seconds;
  /** A query; everything where it is empty. */
  scope: string;
  /** The names under which outsiders appear in the pack. */
  naming: Naming;
}

/** What a query finds at an instant. */
export interface Extract {
  items: ReadonlySet<string>;
  shares: ReadonlySet<string>;
}

/** What a pack’s query finds at the end of each of its two days; of a pack of everything it isn’t asked. */
export type Scoped = readonly [first: Extract, last: Extract] | null;

type Cell = string | number | null | undefined;
/** Many rows at a time: passing on each one would take longer than writing it. */
type Rows = AsyncGenerator<Cell[][]>;
type RecordTable = Exclude<PackTable, "register" | "findings">;
type Table = [heads: readonly string[], rows: (app: Platform, span: PackSpan, scoped: Scoped) => Rows];

const BY_RISK = [{ by: "risk" as const, reversed: false }];
const instant = (at: Seconds | null) => at && rfc3339(at);
const isIn = (scoped: Scoped, share: string | null) =>
  scoped === null || (share !== null && scoped.some(({ shares }) => shares.has(share)));

/** The tables that the records give: the headings of each, and its rows. */
const TABLES: Record<RecordTable, Table> = {
  waivers: [["waiver", "share", "rule", "reason", "given by", "given at", "until", "ended at"], waivers],
  events: [EVENT_HEADS, events],
  dockets: [
    [
      "docket",
      "state",
      "from",
      "name",
      "reason",
      "made by",
      "made at",
      "asked by",
      "approved by",
      "applied by",
      "applied at",
      "finished at",
    ],
    dockets,
  ],
  receipts: [
    [
      "docket",
      "change",
      "share",
      "store",
      "item",
      "for",
      "what",
      "state",
      "sent at",
      "answered at",
      "answer",
      "look",
      "looked at",
      "undone in",
    ],
    receipts,
  ],
  rounds: [
    [
      "round",
      "name",
      "scope",
      "state",
      "opens",
      "closes",
      "opened at",
      "closed at",
      "made by",
      "lines",
      "hash of its shares",
      "docket",
    ],
    rounds,
  ],
  decisions: [
    [
      "round",
      "share",
      "item",
      "place",
      "for",
      "asked",
      "state",
      "decision",
      "until",
      "reason",
      "decided by",
      "decided at",
      "seconds",
      "suggested",
      "docket",
    ],
    decisions,
  ],
  readings: [["store", "day", "readings", "records", "errors", "longest gap in seconds"], readings],
};

export const RECORD_TABLES = Object.keys(TABLES) as RecordTable[];

/** A table of the records as lines of CSV, each ended by LF. */
export async function* recordLines(
  app: Platform,
  table: RecordTable,
  span: PackSpan,
  scoped: Scoped,
): AsyncGenerator<string> {
  const [heads, rows] = TABLES[table];
  yield line(heads);
  for await (const some of rows(app, span, scoped)) yield some.map(line).join("");
}

/**
 * The register at the end of the last day, as lines of CSV.
 * @param findings takes the lines of the other table that the engine gives, since it makes each row but once
 */
export async function* registerLines(
  app: AskingEstate,
  { scope, to, naming }: PackSpan,
  findings: (lines: string) => void,
): AsyncGenerator<string> {
  yield line(HEADS);
  findings(line(["share", "rule"]));
  for await (const rows of rowPieces(app, scope, BY_RISK, to)) {
    findings(rows.flatMap(({ id, rules }) => rules.map((rule) => line([id, rule]))).join(""));
    yield rows.map((row) => line(cellsOf(naming.row(row)))).join("");
  }
}

function line(cells: readonly Cell[]): string {
  return `${cells.map((cell) => csvCell(safeCell(String(cell ?? "")))).join(",")}\n`;
}

async function* waivers({ db }: Platform, span: PackSpan, scoped: Scoped): Rows {
  const all = await waiversBetween(db, rfc3339(span.from), rfc3339(span.to));
  yield all
    .filter(({ share_id }) => isIn(scoped, share_id))
    .map((one) => [
      ...[one.id, one.share_id, one.rule, span.naming.written(one.reason)],
      ...[one.given_by, one.given_at, one.until, one.ended_at],
    ]);
}

async function* events({ db }: Platform, span: PackSpan, scoped: Scoped): Rows {
  for await (const piece of eventsNewestFirst(db, span.from, span.to + 1))
    yield piece
      .filter(({ share }) => isIn(scoped, share?.key ?? null))
      .map((event) => eventCells(span.naming.event(event)));
}

async function* dockets({ db }: Platform, { from, to, naming }: PackSpan): Rows {
  const all = await docketsBetween(db, rfc3339(from), rfc3339(to));
  yield all.map((one) => [
    ...[one.id, one.state, one.origin, naming.written(one.name ?? one.words), naming.written(one.reason)],
    ...[one.made_by, one.made_at],
    ...[one.asked_by, one.approved_by, one.applied_by, one.applied_at, one.finished_at],
  ]);
}

async function* receipts({ db }: Platform, span: PackSpan, scoped: Scoped): Rows {
  for (const { id } of await docketsBetween(db, rfc3339(span.from), rfc3339(span.to))) {
    const all = await receiptsOf(db, id);
    yield all
      .filter(({ share_id }) => isIn(scoped, share_id))
      .map((one) => [
        ...[one.docket_id, one.id, one.share_id, one.store_id, one.item_name],
        ...[span.naming.audience(one.audience), changeWords(JSON.parse(one.body) as Change), one.state],
        ...[one.sent_at, one.answered_at, one.answer && span.naming.text(one.answer)],
        ...[one.probe, one.probed_at, one.undone_in],
      ]);
  }
}

async function* rounds({ db }: Platform, { from, to, naming }: PackSpan): Rows {
  const all = await roundsBetween(db, from, to);
  yield all.map((one) => [
    ...[one.id, naming.written(one.asked.name), naming.text(one.asked.query), one.state],
    ...[one.opens_at, one.closes_at, one.opened_at, one.closed_at].map(instant),
    ...[one.made_by, one.lines, one.lines_hash, one.docket_id],
  ]);
}

async function* decisions({ db }: Platform, span: PackSpan, scoped: Scoped): Rows {
  for (const { id } of await roundsBetween(db, span.from, span.to))
    for await (const piece of decisionPieces(db, id))
      yield piece
        .filter(({ share_id }) => isIn(scoped, share_id))
        .map((one) => [
          ...[one.round_id, one.share_id, one.item_name, one.place, span.naming.audience(one.audience)],
          ...[one.decider, one.state, one.decision && span.naming.text(one.decision), instant(one.until)],
          ...[span.naming.written(one.reason), one.decided_by, instant(one.decided_at)],
          ...[one.seconds, one.suggested, one.docket_id],
        ]);
}

async function* readings({ db }: Platform, { days: [from, to] }: PackSpan): Rows {
  const all = await readingDays(db, from, to);
  yield all.map((one) => [one.store, one.day, one.readings, one.records, one.errors, one.gap]);
}
