// Loaded into each process of the application before anything else: says on SIGUSR2 how late its event loop has been
// since it was last asked, in a file of its own.
import { writeFileSync } from "node:fs";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { isMainThread } from "node:worker_threads";

const EVERY_MS = 5;
const NANO = 1e6;

if (isMainThread) {
  const delay = monitorEventLoopDelay({ resolution: EVERY_MS });
  delay.enable();
  process.on("SIGUSR2", () => {
    const late = (value) => Math.max(0, value / NANO - EVERY_MS);
    const told = { most: late(delay.max), p99: late(delay.percentile(99)) };
    writeFileSync(`${process.env.LATENESS}.${process.pid}`, JSON.stringify(told));
    delay.reset();
  });
}
