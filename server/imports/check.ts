import { shownName } from "@/core/text/shown";
import { createHash } from "node:crypto";
import type { Problem as RowProblem } from "@/core/estate/placed";
import type { EstateRecord, ItemRecord, ShareRecord } from "@/core/estate/records";
import { recordKey } from "@/core/estate/records";
import type { Field } from "@/core/imports/field";
import { Unreadable } from "@/core/imports/file";
import type { DateOrder, Mapping } from "@/core/imports/mapping";
import { DateLook, ReportReading } from "@/core/imports/reading";
import { groupsIn, recordsOf, type ReportOf } from "@/core/imports/records";
import type { Report, Unmapped } from "@/core/imports/report";
import type { Db, Reads } from "../platform/db/open";
import type { Step } from "../platform/thread";
import { lastFactOf } from "../records/marks";
import { namedAsKnown } from "../records/names";
import { digestOfFile, rowsOfFile } from "./rows";

/** A report as somebody gives it to be imported. */
export interface ReportGiven {
  path: string;
  /** What its file is called. */
  file: string;
  /** The source that it counts for, and the store's name. */
  source: string;
  title: string;
  mapping: Mapping;
}

export interface Counts {
  fresh: number;
  changed: number;
  same: number;
}

/** What importing a report would do. */
export interface ReportOutlook {
  rows: number;
  understood: number;
  refused: number;
  left: number;
  inherited: number;
  remarked: number;
  /** The first of each, by row. */
  problems: RowProblem[];
  leftOut: RowProblem[];
  remarks: RowProblem[];
  unmapped: Unmapped[];
  items: Counts;
  shares: Counts;
  /** Shares that the report names no more: they have ended. The first of them. */
  ended: { item: string; audience: string }[];
  endedCount: number;
  /** How many shares this store has now. */
  held: number;
  /** Groups whose members nobody tells. */
  unknownGroups: string[];
  /** A digest of all this, so that what is imported is what was shown. */
  digest: string;
}

/** A report that was checked, and what it takes to import it. */
export interface Checked {
  outlook: ReportOutlook;
  given: ReportGiven;
  of: ReportOf;
  report: Report;
  /** In the order of records: which are new or changed; null where all are, since nothing is known of the store yet. */
  isChanged: Uint8Array | null;
  /** Keys of the shares that have ended. */
  ended: string[];
  /** The last fact of its source when it was checked. */
  lastFact: number;
  /** Of the file and of how it is read. */
  fileDigest: string;
}

export type Progress = (step: Step) => void;

const AT_ONCE = 5_000;
const MOST_SHOWN = 500;

/** The very same report has been imported, read in the same way, and nothing has been since. */
export interface Unchanged {
  unchangedSince: number;
}

/** Reads a report whole, and finds out what importing it would change. @throws {Unreadable} where it can't be read */
export async function checkReport(
  db: Db,
  given: ReportGiven,
  tell: Progress = () => {},
  signal?: AbortSignal,
): Promise<Checked | Unchanged> {
  const fileDigest = digestOf([digestOfFile(given.path), given.source, given.title, given.mapping]);
  const lastFact = lastFactOf(db, given.source);
  const unchangedSince = sameSince(db, given.source, { fileDigest, lastFact });
  if (unchangedSince !== null) return { unchangedSince };
  const report = await read(given, tell, signal);
  const told = new Set(Object.keys(given.mapping.columns) as Field[]);
  const of: ReportOf = { store: given.source, name: given.title, told, at: db.clock.text() };
  const counted = await compare(db, report, of, tell, signal);
  const refused = report.refused > 0;
  // While rows can't be read, nobody knows which shares they would have named.
  const ended = refused ? { keys: [], shown: [], held: counted.held } : endedShares(db, given.source, counted.seen);
  const { rows, understood, left, inherited, remarked, problems, leftOut, remarks, unmapped } = report;
  const outlook = {
    ...{ rows, understood, refused: report.refused, left, inherited, remarked, problems, leftOut, remarks, unmapped },
    ...{ items: counted.items, shares: counted.shares },
    ...{ ended: ended.shown, endedCount: ended.keys.length, held: ended.held },
    unknownGroups: unknownGroups(db, report),
  };
  const digest = digestOf([fileDigest, lastFact, outlook]);
  const { isChanged } = counted;
  return { outlook: { ...outlook, digest }, given, of, report, isChanged, ended: ended.keys, lastFact, fileDigest };
}

/** @throws {Unreadable} with the question that its dates leave open */
async function read({ path, mapping }: ReportGiven, tell: Progress, signal?: AbortSignal): Promise<Report> {
  const order = mapping.dateOrder === "by the rows" ? await orderOf(path, mapping, tell, signal) : mapping.dateOrder;
  const reading = new ReportReading(mapping, order);
  await eachRows(path, mapping, signal, (rows, done) => {
    reading.take(rows);
    tell({ words: "Reading rows", done });
  });
  reading.take([], true);
  return reading.report.finish();
}

async function orderOf(path: string, mapping: Mapping, tell: Progress, signal?: AbortSignal) {
  const look = new DateLook(mapping);
  await eachRows(path, mapping, signal, (rows, done) => {
    look.take(rows);
    tell({ words: "Looking at dates", done });
  });
  look.take([], true);
  const { settled, question } = look.orders;
  if (settled === null) throw new Unreadable(question!);
  return settled satisfies DateOrder;
}

async function eachRows(
  path: string,
  mapping: Mapping,
  signal: AbortSignal | undefined,
  take: (rows: string[][], done: number) => void,
) {
  let done = 0;
  for await (const rows of rowsOfFile(path, mapping)) {
    signal?.throwIfAborted();
    take(rows, (done += rows.length));
    // So that a stop can be heard.
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/** A fact that holds: its id, and its record as text. */
interface Fact {
  id: number;
  body: string;
}

/** What is known of a source’s things now, by its own ids for them. */
export class KnownFacts {
  /** Whether anything of its has another id here. */
  readonly renamed: boolean;
  /** A source without facts needs no lookups. */
  readonly isEmpty: boolean;
  private last: { type: string; key: string; fact: Fact | undefined } | undefined;

  constructor(
    private readonly db: Reads,
    private readonly source: string,
  ) {
    this.isEmpty = lastFactOf(db, source) === 0;
    this.renamed = db.prepare("select 1 from own_id where source = ? limit 1").get(source) !== undefined;
  }

  /** A fact is often looked up twice in a row: to make a record, and to compare it. */
  fact(type: string, key: string): Fact | undefined {
    if (this.isEmpty) return undefined;
    if (this.last?.type === type && this.last.key === key) return this.last.fact;
    const fact = this.db
      .prepare(`select id, body from fact where source = ? and type = ? and key = ? and "to" is null`)
      .get(this.source, type, key) as Fact | undefined;
    this.last = { type, key, fact };
    return fact;
  }

  /** An item, or a share of either kind. */
  record(type: "item" | "share", id: string): ItemRecord | ShareRecord | undefined {
    const key = this.renamed ? this.idHere(type, id) : id;
    const fact = type === "item" ? this.fact("item", key) : (this.fact("grant", key) ?? this.fact("link", key));
    return fact && JSON.parse(fact.body);
  }

  private idHere(space: "item" | "share", id: string): string {
    const row = this.db
      .prepare("select id from own_id where source = ? and space = ? and own = ?")
      .get(this.source, space, id) as { id: string } | undefined;
    return row?.id ?? id;
  }
}

async function compare(db: Db, report: Report, of: ReportOf, tell: Progress, signal?: AbortSignal) {
  const known = new KnownFacts(db, of.store);
  const counts = (fresh = 0) => ({ fresh, changed: 0, same: 0 });
  const seen = new FactSet(lastFactOf(db, of.store));
  if (known.isEmpty)
    return { items: counts(report.items.size), shares: counts(report.shares.size), seen, isChanged: null, held: 0 };
  const [items, shares, others] = [counts(), counts(), counts()];
  const changed: number[] = [];
  let done = 0;
  // One by one, the fact looked up to make a record is still at hand when it is compared.
  const atOnce = known.renamed ? AT_ONCE : 1;
  for (const batch of batches(
    recordsOf(report, of, (type, id) => known.record(type, id)),
    atOnce,
  )) {
    for (const record of known.renamed ? await namedAsKnown(db, of.store, batch) : batch) {
      const isShare = record.type === "grant" || record.type === "link";
      const fact = known.fact(record.type, recordKey(record));
      const outcome = fact === undefined ? "fresh" : fact.body === JSON.stringify(record) ? "same" : "changed";
      (isShare ? shares : record.type === "item" ? items : others)[outcome]++;
      if (outcome !== "same") changed.push(done);
      if (isShare && fact) seen.add(fact.id);
      done++;
    }
    if (done % AT_ONCE > 0) continue;
    signal?.throwIfAborted();
    tell({ words: "Comparing with what is known", done });
    await new Promise((resolve) => setImmediate(resolve));
  }
  const isChanged = new Uint8Array(done);
  for (const at of changed) isChanged[at] = 1;
  return { items, shares, seen, isChanged, held: heldShares(db, of.store) };
}

/** A set of fact ids, a bit for each possible one: very many keys as texts would take too much memory. */
class FactSet {
  private readonly bits: Uint8Array;

  /** @param last the last that can be in it */
  constructor(last: number) {
    this.bits = new Uint8Array((last >> 3) + 1);
  }

  add(id: number) {
    this.bits[id >> 3] |= 1 << (id & 7);
  }

  has(id: number): boolean {
    return (this.bits[id >> 3] & (1 << (id & 7))) !== 0;
  }
}

/** Records in pieces of at most so many. */
export function* batches<R extends EstateRecord>(records: Iterable<R>, atOnce = AT_ONCE): Generator<R[]> {
  let batch: R[] = [];
  for (const record of records) {
    batch.push(record);
    if (batch.length === atOnce) {
      yield batch;
      batch = [];
    }
  }
  if (batch.length > 0) yield batch;
}

const HELD = `from fact where source = ? and type in ('grant', 'link') and "to" is null
  and json_extract(body, '$.revokedAt') is null`;

function heldShares(db: Reads, source: string): number {
  return (db.prepare(`select count(*) as count ${HELD}`).get(source) as { count: number }).count;
}

/** Shares of a source that a report names no more. @param seen facts of those that it names */
function endedShares(db: Reads, source: string, seen: FactSet) {
  const keys: string[] = [];
  const shown: { item: string; audience: string }[] = [];
  let held = 0;
  const bodyOf = db.prepare("select body from fact where id = ?");
  for (const row of db.prepare(`select id, key ${HELD} order by key`).iterate(source)) {
    const { id, key } = row as { id: number; key: string };
    held++;
    if (seen.has(id)) continue;
    keys.push(key);
    if (shown.length < MOST_SHOWN) {
      const { body } = bodyOf.get(id) as { body: string };
      const { item, audience } = shareWords(db, JSON.parse(body) as ShareRecord);
      shown.push({ item: shownName(item), audience: shownName(audience) });
    }
  }
  return { keys, shown, held };
}

function shareWords(db: Reads, share: ShareRecord): { item: string; audience: string } {
  const nameOf = (types: string, key: string, field: string) =>
    (
      db
        .prepare(
          `select json_extract(body, '$.${field}') as name from fact where type in (${types}) and key = ? and "to" is null`,
        )
        .get(key) as { name: string } | undefined
    )?.name;
  const item = nameOf("'item'", share.itemId, "name") ?? share.itemId;
  if (share.type === "grant") return { item, audience: nameOf("'person', 'group'", share.toId, "name") ?? share.toId };
  if (share.reach === "named") return { item, audience: share.recipients.map(({ email }) => email).join(", ") };
  return { item, audience: share.reach === "open" ? "anyone" : "everyone in the organisation" };
}

/** Reports name groups but not their members; only a directory may know those. */
function unknownGroups(db: Reads, report: Report): string[] {
  const isKnown = db.prepare(
    `select 1 from fact where type = 'group' and "to" is null
      and (key = ? or lower(json_extract(body, '$.email')) = lower(?)) and json_extract(body, '$.sameAs') is null limit 1`,
  );
  const unknown = [...groupsIn(report)].filter((name) => !isKnown.get(`group:${name}`, name));
  return unknown.slice(0, MOST_SHOWN).map(shownName);
}

function sameSince(db: Reads, source: string, now: { fileDigest: string; lastFact: number }): number | null {
  const last = db
    .prepare(
      "select digest, last_fact, at, skipped from import_run where source = ? and state = 'done' order by id desc",
    )
    .get(source) as { digest: string; last_fact: number; at: number; skipped: number } | undefined;
  const isSame = last?.digest === now.fileDigest && last.last_fact === now.lastFact && last.skipped === 0;
  return isSame ? last.at : null;
}

function digestOf(shown: unknown): string {
  return createHash("sha256").update(JSON.stringify(shown)).digest("hex");
}
