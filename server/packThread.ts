import { parentPort, workerData } from "node:worker_threads";
import { makePack } from "./evidence/pack/make";
import type { PackStep, PackTask } from "./evidence/pack/thread";
import { packMaker } from "./packMaker";
import { Clock } from "./platform/clock";
import { openPlatform } from "./platform/platform";
import type { Settings } from "./platform/settings";
import { serveAsked } from "./platform/thread";

/** In kilobytes. What is read is read once and in order: a large cache would hold what nobody asks for again. */
const CACHE = 1_000;

/** What is run as a thread that makes a pack. */
const platform = await openPlatform(workerData as Settings, new Clock());
platform.db.sqlite.pragma(`cache_size = -${CACHE}`);
const maker = await packMaker(platform);
serveAsked(parentPort!, ({ asked, by, standsAt }: PackTask, tell: (step: PackStep) => void, signal) => {
  platform.clock.standsAt = standsAt;
  return makePack(maker, asked, by, { tell: (file) => tell({ file }), signal });
});
