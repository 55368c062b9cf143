import type { EstateRecord, ShareRecord } from "@/core/estate/records";
import { recordsOf, type ReportOf } from "@/core/imports/records";
import { type Db, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { beginFacts, firstHeld, keepFacts, type Seen } from "../records/facts";
import { lastFactOf } from "../records/marks";
import { areOthersHere, beginSource, namedHere } from "../records/names";
import { batches, type Checked, KnownFacts, type Progress } from "./check";

/** The result of an import, which may have been stopped. */
export interface Taken {
  changed: number;
  ended: number;
  isStopped: boolean;
  /** The last fact of its source afterwards. */
  lastFact: number;
}

/** How many records are written in one transaction, for which others wait. */
const IN_A_TRANSACTION = 5_000;
/** Few enough that they are let go of before the garbage collector takes them for something that stays. */
const HELD_AT_ONCE = 250;
const ENDED_AT_ONCE = 500;

/**
 * Imports a report as it was checked: what is new or changed, some at a time, and then what has ended. Where it is
 * stopped, what was written stays, and nothing has ended.
 * @throws {Problem} where its store has changed since it was checked
 */
export async function takeReport(
  db: Db,
  { report, of, isChanged, ended, lastFact }: Checked,
  tell: Progress = () => {},
  signal?: AbortSignal,
): Promise<Taken> {
  const source = of.store;
  const known = new KnownFacts(db, source);
  const changed = changedOnly(
    recordsOf(report, of, (type, id) => known.record(type, id)),
    isChanged,
  );
  const putting = new Putting(of, lastFact === 0);
  let expected = lastFact;
  const once = (work: (tx: Tx) => Promise<void>) =>
    writing(db, async (tx) => {
      await begin(tx, source, expected);
      await work(tx);
      expected = lastFactOf(tx, source);
    });
  for (let next = changed.next(); !next.done; next = changed.next()) {
    if (signal?.aborted) return { changed: putting.done, ended: 0, isStopped: true, lastFact: expected };
    const some = together(next.value as EstateRecord, changed, IN_A_TRANSACTION);
    // Of a later report what hasn't changed is passed over, which takes long: not while others wait to write.
    const records = isChanged === null ? some : [...some];
    await once(async (tx) => {
      for (const batch of batches(records, HELD_AT_ONCE)) await putting.put(tx, batch);
    });
    tell({ words: "Importing", done: putting.done });
  }
  for (let from = 0; from < ended.length; from += ENDED_AT_ONCE)
    await once(async (tx) => {
      await keepFacts(tx, source, endedNow(tx, ended.slice(from, from + ENDED_AT_ONCE)));
    });
  return { changed: putting.done, ended: ended.length, isStopped: false, lastFact: expected };
}

/** What was shown holds only if nobody else has changed anything meanwhile. */
async function begin(tx: Tx, source: string, expected: number) {
  await beginSource(tx, source, "import");
  if (lastFactOf(tx, source) !== expected)
    throw new Problem("conflict", "This store has been imported again meanwhile. Check the report again.");
}

function* changedOnly(records: Iterable<EstateRecord>, isChanged: Uint8Array | null): Generator<EstateRecord> {
  let at = 0;
  for (const record of records) if (isChanged === null || isChanged[at++] === 1) yield record;
}

/** A record with those that come after it, so many altogether; what is behind them can still be asked for. */
function* together<R>(first: R, others: Iterator<R>, count: number): Generator<R> {
  yield first;
  for (let i = 1; i < count; i++) {
    const { done, value } = others.next();
    if (done) return;
    yield value;
  }
}

/** Writes records under the ids that they have here. */
class Putting {
  done = 0;
  private readonly naming: Naming;

  /** @param isFirst its store has told nothing before */
  constructor(
    private readonly of: ReportOf,
    private readonly isFirst: boolean,
  ) {
    this.naming = new Naming(of.store);
  }

  async put(tx: Tx, batch: EstateRecord[]) {
    const { store, at } = this.of;
    const named = await this.naming.here(tx, batch);
    const seen = named.map((record) => ({ record, at, since: this.isFirst ? firstHeld(record, at) : at }));
    // A first report has each thing once, and nobody else writes for its source: `begin` has checked it.
    if (this.isFirst) beginFacts(tx, store, seen);
    else await keepFacts(tx, store, seen);
    this.naming.wrote(tx);
    this.done += batch.length;
  }
}

/** Gives a report's records their ids here. Checking for other sources takes long, so it is done once. */
class Naming {
  private isAlone = false;
  private lastFact = -1;

  constructor(private readonly source: string) {}

  async here(tx: Tx, batch: EstateRecord[]): Promise<EstateRecord[]> {
    // Still true as long as nobody else has written a fact since.
    if (lastOfAll(tx) !== this.lastFact) this.isAlone = !(await areOthersHere(tx, this.source));
    return this.isAlone ? batch : namedHere(tx, this.source, batch, "anybody's");
  }

  wrote(tx: Tx) {
    this.lastFact = lastOfAll(tx);
  }
}

function lastOfAll(tx: Tx): number {
  return (tx.prepare("select max(id) as id from fact").get() as { id: number | null }).id ?? 0;
}

/** A share that a report names no more has been revoked by now: when, nobody has said. */
function* endedNow(tx: Tx, keys: readonly string[]): Generator<Seen> {
  const at = tx.clock.text();
  for (const key of keys) {
    const row = tx
      .prepare(`select body from fact where type in ('grant', 'link') and key = ? and "to" is null`)
      .get(key) as { body: string };
    yield { record: { ...(JSON.parse(row.body) as ShareRecord), revokedAt: at }, at, since: at };
  }
}
