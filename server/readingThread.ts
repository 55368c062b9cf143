import { parentPort, workerData } from "node:worker_threads";
import { listeners } from "./listeners";
import { Clock } from "./platform/clock";
import { openPlatform } from "./platform/platform";
import { serveAsked } from "./platform/thread";
import { Traffic } from "./platform/traffic";
import type { ReadingTask, ReadingThreadOf } from "./stores/atWork";
import { type ReadingProgress, readStores } from "./stores/read";

/** What is run as a thread that reads stores. */
const { settings, traffic } = workerData as ReadingThreadOf;
const platform = await openPlatform(settings, new Clock(settings.now), new Traffic(traffic));
serveAsked(parentPort!, ({ standsAt }: ReadingTask, tell: (step: ReadingProgress) => void) => {
  platform.clock.standsAt = standsAt;
  return readStores({ ...platform, listeners }, tell);
});
