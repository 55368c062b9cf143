import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Clock } from "@/server/platform/clock";
import { openPlatform, type Platform } from "@/server/platform/platform";
import type { Settings } from "@/server/platform/settings";
import { append } from "@/server/records/ledger/ledger";
import { settingsIn } from "./app";
import { NOW } from "./records";

/** A ledger of its own, and what there is around it. */
export interface OpenedLedger extends Platform {
  /** Adds so many entries. */
  write(count: number, text?: string): Promise<void>;
  /** Lets so many days pass. */
  pass(days: number): void;
}

/** @param more settings that are not those of every test */
export async function openLedger(more: Partial<Settings> = {}): Promise<OpenedLedger> {
  const data = mkdtempSync(join(tmpdir(), "latch-ledger-"));
  const clock = new Clock(new Date(NOW));
  const settings = { ...settingsIn(data), url: "https://latch.hall.example:4310", ...more };
  const platform = await openPlatform(settings, clock);
  return {
    ...platform,
    async write(count, text = "note") {
      for (let i = 0; i < count; i++)
        await append(platform.db, "ida@home.example", "note-left", { shareId: "s", text: `${text} ${i}` });
    },
    pass(days) {
      clock.standsAt = new Date(clock.standsAt!.getTime() + days * 86_400_000);
    },
  };
}
