import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";

const LOOK_EVERY_MS = 250;

/** Runs the command line. @throws where it fails */
export async function latch(data: string, ...given: string[]): Promise<{ ms: number; megabytes: number }> {
  const env = { ...process.env, LATCH_DATA: data, LATCH_ROOT: process.cwd(), LATCH_NOW: "2026-11-30T12:00:00Z" };
  const began = performance.now();
  const child = spawn(process.execPath, ["dist/latch/latch.mjs", ...given], {
    env,
    stdio: ["ignore", "ignore", "pipe"],
  });
  let told = "";
  child.stderr.on("data", (text) => (told += text));
  let megabytes = 0;
  const looking = setInterval(() => (megabytes = Math.max(megabytes, peakOf(child.pid!))), LOOK_EVERY_MS);
  const code = await new Promise((resolve) => child.once("exit", resolve));
  clearInterval(looking);
  if (code !== 0) throw new Error(`latch ${given[0]} failed: ${told}`);
  return { ms: performance.now() - began, megabytes };
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
