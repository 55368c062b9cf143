import { installed } from "../../platform/installation";
import type { Platform } from "../../platform/platform";
import { AskedThread } from "../../platform/thread";
import { lastMark } from "../../records/marks";
import type { PackAsked } from "./span";

/** What a thread that makes packs is asked. */
export interface PackTask {
  asked: PackAsked;
  by: string;
  /** Where the application’s clock stands still. */
  standsAt: Date | undefined;
}

/** Which file a thread writes now. */
export interface PackStep {
  file: string;
}

/**
 * In megabytes, of a small estate and for a million facts: some three times what is in use. With a limit near, V8 clears
 * away in time what is in use no more, and with little room for what is new, that little of it is kept for long.
 */
const [LEAST_HEAP, HEAP_A_MILLION, HEAP_FOR_NEW] = [320, 250, 12];

/** A thread that makes a pack, with as much memory as the database's facts may need. */
export async function packThread(
  { settings, db }: Platform,
  onStep: (step: PackStep) => void,
): Promise<AskedThread<PackStep>> {
  const { fact: facts } = await lastMark(db);
  const heap = Math.max(LEAST_HEAP, Math.ceil((facts / 1e6) * HEAP_A_MILLION));
  const limits = { maxOldGenerationSizeMb: heap, maxYoungGenerationSizeMb: HEAP_FOR_NEW };
  return new AskedThread(installed("dist", "packs", "packThread.mjs"), settings, onStep, "estate", limits);
}
