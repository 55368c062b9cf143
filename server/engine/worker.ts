import { parentPort, workerData } from "node:worker_threads";
import { openDatabase } from "../db/open";
import { currentRecords } from "../reading/facts";
import { Engine } from "./engine";
import type { Envelope, Reply } from "./questions";

/** The engine's thread: takes questions one after the other, and answers each. */
const db = await openDatabase(workerData.databasePath as string);
const engine = new Engine(() => currentRecords(db));
await engine.refresh();

let last: Promise<void> = Promise.resolve();
parentPort!.on("message", (envelope: Envelope) => {
  last = last.then(async () => parentPort!.postMessage(await reply(envelope)));
});

async function reply({ number, name, asked, t }: Envelope): Promise<Reply> {
  try {
    return { number, answer: await engine[name](asked as never, t) };
  } catch (error) {
    return { number, error: (error as Error).stack ?? String(error) };
  }
}
