import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";

const LOOK_EVERY_MS = 250;

/** What a command says when its own work is done, and only the engine still reads what has come in. */
const ENGINE_READS = "Getting the engine ready";

/**
 * Runs the command line.
 * @returns how long it took, and how much memory it had at most: altogether, and before the engine began to read
 * @throws where it fails
 */
export async function latch(
  data: string,
  ...given: string[]
): Promise<{ ms: number; megabytes: number; ownMegabytes: number }> {
  const env = { ...process.env, LATCH_DATA: data, LATCH_ROOT: process.cwd(), LATCH_NOW: "2026-11-30T12:00:00Z" };
  const began = performance.now();
  const child = spawn(process.execPath, ["dist/latch/latch.mjs", ...given], {
    env,
    stdio: ["ignore", "ignore", "pipe"],
  });
  let [told, megabytes, ownMegabytes] = ["", 0, 0];
  child.stderr.on("data", (text) => {
    told += text;
    if (told.includes(ENGINE_READS)) ownMegabytes ||= peakOf(child.pid!);
  });
  const looking = setInterval(() => (megabytes = Math.max(megabytes, peakOf(child.pid!))), LOOK_EVERY_MS);
  const code = await new Promise((resolve) => child.once("exit", resolve));
  clearInterval(looking);
  if (code !== 0) throw new Error(`latch ${given[0]} failed: ${told}`);
  return { ms: performance.now() - began, megabytes, ownMegabytes: ownMegabytes || megabytes };
}

/** The most that a process has had in memory so far, as Linux tells it. */
function peakOf(pid: number): number {
  try {
    const status = readFileSync(`/proc/${pid}/status`, "utf8");
    return Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1_000;
  } catch {
    // It has just ended.
    return 0;
  }
}
