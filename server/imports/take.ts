import type { EstateRecord, ShareRecord } from "@/core/estate/records";
import { recordsOf } from "@/core/imports/records";
import { type Db, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { beginFacts, firstHeld, keepFacts, type Seen } from "../records/facts";
import { lastFactOf } from "../records/marks";
import { areOthersHere, beginSource, namedHere } from "../records/names";
import { batches, type Checked, KnownFacts, type Progress } from "./check";

/** What came of an import, which may have been stopped. */
export interface Taken {
  changed: number;
  ended: number;
  isStopped: boolean;
  /** The last fact of its source afterwards. */
  lastFact: number;
}

/** So many records are written within one transaction: others wait for it. */
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
  const records = recordsOf(report, of, (type, id) => known.record(type, id));
  let [done, expected] = [0, lastFact];
  const isFirst = lastFact === 0;
  const naming = new Naming(source);
  for (const batch of batches(changedOnly(records, isChanged))) {
    if (signal?.aborted) return { changed: done, ended: 0, isStopped: true, lastFact: expected };
    await writing(db, async (tx) => {
      await begin(tx, source, expected);
      const named = await naming.here(tx, batch);
      // A first report tells of each thing once, and nobody else tells for its source: `begin` has seen to it.
      if (isFirst)
        beginFacts(
          tx,
          source,
          named.map((record) => ({ record, at: of.at, since: firstHeld(record, of.at) })),
        );
      else
        await keepFacts(
          tx,
          source,
          named.map((record) => ({ record, at: of.at, since: of.at })),
        );
      expected = lastFactOf(tx, source);
      naming.wrote(tx);
    });
    done += batch.length;
    tell({ words: "Importing", done });
  }
  for (let from = 0; from < ended.length; from += ENDED_AT_ONCE)
    await writing(db, async (tx) => {
      await begin(tx, source, expected);
      await keepFacts(tx, source, endedNow(tx, ended.slice(from, from + ENDED_AT_ONCE)));
      expected = lastFactOf(tx, source);
    });
  return { changed: done, ended: ended.length, isStopped: false, lastFact: expected };
}

/** Only what nobody else has changed meanwhile is what was shown. */
async function begin(tx: Tx, source: string, expected: number) {
  await beginSource(tx, source, "import");
  if (lastFactOf(tx, source) !== expected)
    throw new Problem("conflict", "This store has been imported again meanwhile. Check the report again.");
}

function* changedOnly(records: Iterable<EstateRecord>, isChanged: Uint8Array | null): Generator<EstateRecord> {
  let at = 0;
  for (const record of records) if (isChanged === null || isChanged[at++] === 1) yield record;
}

/** Gives what a report tells its names here. Whether anybody else is here takes long to find out, and is found out once. */
class Naming {
  private isAlone = false;
  private lastFact = -1;

  constructor(private readonly source: string) {}

  async here(tx: Tx, batch: EstateRecord[]): Promise<EstateRecord[]> {
    // As long as nobody else has told anything since, it is as it was.
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
