import { mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Random } from "../demo/random";
import { openDatabase } from "../server/platform/db/open";
import { writeDatabase } from "./database";
import { latch } from "./latch";
import type { Report } from "./report";
import { copyEventsUpTo, fillTrail, intakeEvents } from "./trail";

const ITEMS = 1_000_000;

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
