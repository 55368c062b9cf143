import { type Db, type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { takeEvents } from "../records/events/take";
import type { Entry, StoreAdapter } from "./adapter";
import { Again } from "./again";
import { adapterFor, type Connection, connections } from "./connections";
import { firstHeld, keepFacts, type Seen } from "../records/facts";
import { offerHomeDomains } from "../records/homeDomains";
import { beginSource, namedHere } from "../records/names";
import type { Reading } from "./listeners";
import { countReading } from "./readingDays";

export interface ReadingProgress {
  store: string;
  records: number;
  finished: boolean;
  error?: string;
}

export interface ReadingResult {
  store: string;
  /** Facts that are new or changed. */
  changed: number;
  /** Events that are new, and alerts that they raised. */
  events: number;
  alerts: number;
  error?: string;
}

/**
 * Continues reading every connected store from where the last reading ended. A store that can't be read is
 * reported, and doesn't hold up the others.
 */
export async function readStores(
  app: Reading,
  progress: (step: ReadingProgress) => void = () => {},
  { withEvents = true } = {},
): Promise<ReadingResult[]> {
  const results: ReadingResult[] = [];
  for (const connection of await connections(app.db)) {
    const result = await readStore(app, connection, progress);
    await countReading(app.db, connection, result);
    results.push(result);
  }
  // Events refer to things in all stores, so they are read when those are known.
  for (const result of results) if (withEvents && !result.error) await readEventsOf(app, result);
  return results;
}

async function readEventsOf(app: Reading, result: ReadingResult) {
  const connection = (await connections(app.db)).find(({ name }) => name === result.store)!;
  try {
    Object.assign(result, await readEvents(app, connection));
  } catch (error) {
    result.error = await failed(app.db, connection, error as Error);
  }
}

/** Reads what has happened since the last reading; events, alerts and the cursor are kept together or not at all. */
async function readEvents(app: Reading, connection: Connection) {
  const { id, event_cursor } = connection;
  const adapter = adapterFor(app, connection);
  const sum = { events: 0, alerts: 0 };
  for (let cursor = event_cursor; ;) {
    const page = await adapter.events(cursor);
    if (page.events.length > 0)
      await writing(app.db, async (within) => {
        const { taken, fresh } = await takeEvents(within, id, page.events, "own", app.listeners.ours);
        const alerts = await app.listeners.events(within, fresh);
        await within.updateTable("connection").set({ event_cursor: page.next }).where("id", "=", id).execute();
        sum.events += taken;
        sum.alerts += alerts;
      });
    if (page.isLast) return sum;
    cursor = page.next;
  }
}

/** Whether anything has happened in a store that has not been read yet. */
export async function hasNewEvents(app: Reading): Promise<boolean> {
  const asked = await Promise.allSettled(
    (await connections(app.db)).map((connection) => adapterFor(app, connection).events(connection.event_cursor)),
  );
  // A store that can't be asked says so at its next reading.
  return asked.some((one) => one.status === "fulfilled" && one.value.events.length > 0);
}

async function readStore(
  app: Reading,
  connection: Connection,
  progress: (step: ReadingProgress) => void,
): Promise<ReadingResult> {
  const { name } = connection;
  try {
    const changed = await readPages(app, connection, adapterFor(app, connection), progress);
    return { store: name, changed, events: 0, alerts: 0 };
  } catch (failure) {
    const error = await failed(app.db, connection, failure as Error);
    progress({ store: name, records: 0, finished: true, error });
    return { store: name, changed: 0, events: 0, alerts: 0, error };
  }
}

async function failed(db: Db, { id }: Connection, { message }: Error): Promise<string> {
  await db.updateTable("connection").set({ last_error: message }).where("id", "=", id).execute();
  return message;
}

async function readPages(
  { db, traffic }: Reading,
  connection: Connection,
  adapter: StoreAdapter,
  progress: (step: ReadingProgress) => void,
): Promise<number> {
  const { id, name } = connection;
  const isFirst = connection.first_read_at === null;
  const described = await adapter.describe();
  let changed = await writing(db, async (within) => {
    await beginSource(within, id, "store");
    const [record] = await namedHere(within, id, [described]);
    return keepFacts(within, id, [{ record, at: within.clock.text(), since: null }]);
  });
  // Only a reading from the beginning shows what a store no longer has.
  const again = connection.reads_again === 1 ? new Again(id) : null;
  let cursor = again ? 0 : connection.cursor;
  let records = connection.records;
  for (let next = adapter.read(cursor); ;) {
    const page = await next;
    // While it is written, the store prepares the next one. If that fails, the error surfaces when it is needed.
    if (!page.isLast) (next = adapter.read(page.next)).catch(() => undefined);
    await traffic.giveWay();
    records += isFirst ? page.entries.length : 0;
    changed += await writing(db, async (within) => {
      const seen = await seenIn(within, id, page.entries, isFirst);
      again?.see(seen);
      const kept = await keepFacts(within, id, seen);
      await within.updateTable("connection").set({ cursor: page.next, records }).where("id", "=", id).execute();
      return kept;
    });
    cursor = page.next;
    progress({ store: name, records: page.entries.length, finished: page.isLast });
    if (page.isLast) break;
  }
  if (again) changed += await writing(db, (within) => again.finish(within));
  await finishReading(db, connection, changed, isFirst);
  return changed;
}

/** A store's records under the ids that they have here. It may set the home domains if nobody has. */
async function seenIn(db: Tx, source: string, entries: readonly Entry[], isFirst: boolean): Promise<Seen[]> {
  for (const { record } of entries) if (record.type === "estate") await offerHomeDomains(db, record);
  const told = entries.filter(({ record }) => record.type !== "estate");
  const named = await namedHere(
    db,
    source,
    told.map(({ record }) => record),
  );
  return told.map(({ at, gone }, i) => ({
    ...{ record: named[i], at, gone },
    since: isFirst ? firstHeld(named[i], at) : at,
  }));
}

/** A reading that changed nothing leaves no entry: the ledger tells what happened, not that the clock ran. */
function finishReading(db: Db, { id, name }: Connection, changed: number, isFirst: boolean): Promise<void> {
  return writing(db, async (within) => {
    const at = within.clock.text();
    await within
      .updateTable("connection")
      .set({ last_read_at: at, last_error: null, ...(isFirst ? { first_read_at: at } : {}) })
      .where("id", "=", id)
      .execute();
    if (changed > 0 || isFirst)
      await appendWithin(within, "reading", "store-read", { store: name, changed, first: isFirst });
  });
}
