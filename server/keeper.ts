import { Cron } from "croner";
import { EventEmitter } from "node:events";
import type { Db } from "./platform/db/open";
import { engine } from "./engine/client";
import { connections } from "./stores/connections";
import type { StoreStatus } from "@/core/estate/storeStatus";
import { sendNow } from "./messages/outbox";
import { tick } from "./tick";
import { raiseNotYet } from "./trail/notYet";
import { hasNewActs, type ReadingProgress, type ReadingResult, readStores } from "./stores/read";

const shared = globalThis as {
  latchReading?: Promise<ReadingResult[]>;
  latchReadingProgress?: EventEmitter;
  latchAlerts?: EventEmitter;
};
/** Says when there are new alerts. */
export const alertEvents = (shared.latchAlerts ??= new EventEmitter().setMaxListeners(0));
export const readingEvents = (shared.latchReadingProgress ??= new EventEmitter().setMaxListeners(0));

/** Reads all stores and lets the engine know what changed. One reading at a time: a second call joins the first. */
export function readNow(db: Db): Promise<ReadingResult[]> {
  return (shared.latchReading ??= readAndRefresh(db).finally(() => {
    delete shared.latchReading;
    readingEvents.emit("progress");
  }));
}

async function readAndRefresh(db: Db): Promise<ReadingResult[]> {
  const results = await readStores(db, (step: ReadingProgress) => readingEvents.emit("progress", step));
  // Not only what was read may be new: another process may have carried out a docket.
  await engine().ask("refresh", {});
  const alerts = results.reduce((sum, one) => sum + one.alerts, 0) + (await raiseNotYet(db));
  if (alerts > 0) alertEvents.emit("alerts");
  void sendNow(db).catch(tellOf("sending"));
  return results;
}

/** How each store's reading stands, for those who watch. */
export async function readingStatus(db: Db): Promise<{ reading: boolean; stores: StoreStatus[] }> {
  const stores = (await connections(db)).map(({ id, name, records, last_read_at, last_error }) => ({
    id,
    name,
    records,
    lastReadAt: last_read_at,
    lastError: last_error,
  }));
  return { reading: shared.latchReading !== undefined, stores };
}

/** Reads at start and again every so many seconds; does what is due at start, as soon as that is read, and every minute. */
export function keepTime(db: Db, everySeconds: number) {
  const read = () => readNow(db).then(() => undefined, tellOf("reading"));
  const doDue = () => tickNow(db).then(() => undefined, tellOf("what is due"));
  void read().then(doDue);
  if (everySeconds > 0) new Cron("* * * * * *", { interval: everySeconds, protect: true, unref: true }, read);
  new Cron("0 * * * * *", { protect: true, unref: true }, doDue);
}

/** Does what is due now, and says so to those who watch where it raised alerts. @returns false where another process is at it */
export async function tickNow(db: Db): Promise<boolean> {
  const alerts = await tick(db);
  if (alerts) alertEvents.emit("alerts");
  return alerts !== null;
}

/**
 * Looks every so many seconds whether anything has happened in a store: then it is read at once, so that an alert
 * doesn't wait for the next reading. Messages that are due go out too.
 */
export function keepWatch(db: Db, everySeconds: number) {
  const look = async () => {
    if (await hasNewActs(db)) await readNow(db);
    else await sendNow(db);
  };
  const next = () => setTimeout(() => look().catch(tellOf("watching")).finally(next), everySeconds * 1_000).unref();
  if (everySeconds > 0) next();
}

function tellOf(what: string) {
  return (error: Error) => console.error(`${what}: ${error.stack}`);
}
