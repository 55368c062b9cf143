import { EventEmitter } from "node:events";
import type { Db } from "../db/open";
import { engine } from "../engine/client";
import { type ReadingProgress, type ReadingResult, readStores } from "./read";

const shared = globalThis as { latchReading?: Promise<ReadingResult[]>; latchReadingProgress?: EventEmitter };
export const readingEvents = (shared.latchReadingProgress ??= new EventEmitter().setMaxListeners(0));

/** Reads all stores and lets the engine know what changed. One reading at a time: a second call joins the first. */
export function readNow(db: Db): Promise<ReadingResult[]> {
  return (shared.latchReading ??= readAndRefresh(db).finally(() => delete shared.latchReading));
}

async function readAndRefresh(db: Db): Promise<ReadingResult[]> {
  const results = await readStores(db, (step: ReadingProgress) => readingEvents.emit("progress", step));
  if (results.some((one) => one.changed > 0)) await engine().ask("refresh", {});
  return results;
}

/** Reads at start and again every so many seconds. */
export function keepReading(db: Db, everySeconds: number) {
  const read = () => readNow(db).catch((error) => console.error(`reading: ${(error as Error).stack}`));
  void read();
  if (everySeconds > 0) setInterval(read, everySeconds * 1_000).unref();
}
