import { parentPort, workerData } from "node:worker_threads";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { openDatabase } from "../platform/db/open";
import { Engine } from "./engine";
import type { Envelope, QuestionName, Reply, TrailQuestions } from "./questions";
import { TrailBook } from "./trailBook";
import { currentSource, pastSource } from "./source";

/** The engine's thread: takes questions one after the other, and answers each. */
const db = await openDatabase(workerData.databasePath as string);
const path = workerData.databasePath as string;
const trail = new TrailBook(db);
const current = new Engine(currentSource(db, `${path}.columns`), `${path}.reading`);
await current.start();
await trail.catchUp();

/** How many past instants are held ready; who compares two days asks about both again and again. */
const PASTS_HELD = 3;
const pasts = new Map<Seconds, Engine>();

let last: Promise<void> = Promise.resolve();
parentPort!.on("message", (envelope: Envelope) => {
  last = last.then(async () => {
    parentPort!.postMessage(await reply(envelope));
    if (!envelope.isPast) prepare();
  });
});

let preparing: Promise<void> | undefined;
function prepare() {
  preparing ??= current.prepare().finally(() => (preparing = undefined));
}

async function reply({ number, name, asked, t, isPast }: Envelope): Promise<Reply> {
  try {
    // A reading may tell of the past too: what was held of it is worked out again.
    if (name === "refresh") await Promise.all([forgetPasts(), trail.catchUp()]);
    if (isOfTrail(name)) return { number, answer: await trail[name](asked as never) };
    const engine = isPast ? await engineAt(t) : current;
    return { number, answer: await engine[name](asked as never, t) };
  } catch (error) {
    return { number, error: (error as Error).stack ?? String(error) };
  }
}

function isOfTrail(name: QuestionName): name is keyof TrailQuestions {
  return name in trail;
}

async function engineAt(t: Seconds): Promise<Engine> {
  const held = pasts.get(t);
  if (held) return held;
  const engine = new Engine(pastSource(db, rfc3339(t)));
  await engine.start();
  pasts.set(t, engine);
  if (pasts.size > PASTS_HELD) await forget(pasts.keys().next().value!);
  return engine;
}

async function forgetPasts() {
  for (const t of [...pasts.keys()]) await forget(t);
}

async function forget(t: Seconds) {
  await pasts.get(t)!.close();
  pasts.delete(t);
}
