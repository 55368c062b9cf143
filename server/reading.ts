import type { StoreStatus } from "@/core/estate/storeStatus";
import type { EventEmitter } from "node:events";
import { type Sending, sendNow } from "./messages/outbox";
import type { Jobs } from "./platform/jobs";
import { connections } from "./stores/connections";
import type { Reading } from "./stores/listeners";
import type { ReadingsAtWork } from "./stores/atWork";
import { hasNewEvents, type ReadingResult } from "./stores/read";
import { unansweredAt } from "./rules/demands";
import { raiseNotYet } from "./trail/notYet";

/** What is needed to read stores and let everybody know. */
export interface ReadingAll extends Reading, Sending {
  readonly readings: ReadingsAtWork;
  /** The reading that goes on. */
  reading?: Promise<ReadingResult[]>;
  /** Says `progress` while stores are read. */
  readonly readingEvents: EventEmitter;
  /** Says `alerts` when there are new ones, or one has been seen to. */
  readonly alertEvents: EventEmitter;
}

/** Reads all stores and lets the engine know what changed. One reading at a time: a second call joins the first. */
export function readNow(app: ReadingAll): Promise<ReadingResult[]> {
  return (app.reading ??= readAndRefresh(app).finally(() => {
    delete app.reading;
    app.readingEvents.emit("progress");
  }));
}

async function readAndRefresh(app: ReadingAll): Promise<ReadingResult[]> {
  const results = await app.readings.read();
  if (!results) return [];
  // Not only what was read may be new: another process may have carried out a docket.
  await app.engine.ask("refresh", {});
  const alerts = results.reduce((sum, one) => sum + one.alerts, 0) + (await raiseNotYet(app.db, unansweredAt));
  if (alerts > 0) app.alertEvents.emit("alerts");
  void sendNow(app).catch((error: Error) => console.error(`sending: ${error.stack}`));
  return results;
}

/** How each store's reading stands, for those who watch. */
export async function readingStatus(app: ReadingAll): Promise<{ reading: boolean; stores: StoreStatus[] }> {
  const stores = (await connections(app.db)).map(({ id, name, records, last_read_at, last_error }) => ({
    id,
    name,
    records,
    lastReadAt: last_read_at,
    lastError: last_error,
  }));
  return { reading: app.reading !== undefined, stores };
}

/**
 * Looks every so many seconds whether anything has happened in a store: then it is read at once, so that an alert
 * doesn't wait for the next reading. Messages that are due go out too.
 */
export function watchStores(app: ReadingAll & { jobs: Jobs }, everySeconds: number) {
  if (everySeconds > 0)
    app.jobs.every(everySeconds, async () => {
      try {
        if (await hasNewEvents(app)) await readNow(app);
        else await sendNow(app);
      } catch (error) {
        console.error(`watching: ${(error as Error).stack}`);
      }
    });
}
