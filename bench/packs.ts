import { spawn } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Random } from "../demo/random";
import { openDatabase } from "../server/platform/db/open";
import { writeDatabase } from "./database";
import type { Report } from "./report";
import { copyEventsUpTo, fillTrail, intakeEvents } from "./trail";

const ITEMS = 1_000_000;
const LOOK_EVERY_MS = 250;

/** A pack of a year, made by the command that people type: how long it takes, and how much memory at most. */
export async function measurePacks(report: Report, shares: number, events: number) {
  const data = mkdtempSync(join(tmpdir(), "latch-packs-"));
  try {
    const path = join(data, "latch.sqlite");
    await writeDatabase(path, ITEMS, shares);
    const db = await openDatabase(path);
    const random = new Random(5);
    await fillTrail(db, random);
    await intakeEvents(db, random, events, 0);
    await copyEventsUpTo(db, random, events);
    await db.destroy();
    const pack = join(data, "pack.zip");
    const made = await latch(data, "pack", "--from", "2025-12-01", "--to", "2026-11-30", "-o", pack);
    const add = (what: string, value: number, unit: "ms" | "MB", wanted: number | null) =>
      report.add({
        size: shares,
        what: `a pack of a year, of ${events} events: ${what}`,
        value,
        unit,
        wanted,
        isAsked: true,
      });
    add("made", made.ms, "ms", 180_000);
    add("memory at most, the engine and all", made.megabytes, "MB", 400);
    add("its file", statSync(pack).size / 1e6, "MB", null);
    const verified = await latch(data, "verify", pack);
    add("verified", verified.ms, "ms", null);
    add("memory at most while it is verified", verified.megabytes, "MB", null);
  } finally {
    rmSync(data, { recursive: true, force: true });
  }
}

/** Runs the command line. @throws where it fails */
async function latch(data: string, ...given: string[]): Promise<{ ms: number; megabytes: number }> {
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
