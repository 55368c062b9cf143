import { REQUIRED } from "@/core/evidence/pack";
import type { Asking } from "../../engine/client";
import { installed } from "../../platform/installation";
import type { Platform } from "../../platform/platform";
import { AskedThread } from "../../platform/thread";
import { Problem } from "../../platform/problem";
import { lastMark } from "../../records/marks";
import { checkNamesNobody, firstEntry } from "./ledgerFiles";
import { type PackAsked, packSpan } from "./span";

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
  return new AskedThread(installed("dist", "packs.mjs"), settings, onStep, "estate", limits);
}

/** A pack that is being made. */
interface Making {
  asked: PackAsked;
  /** Which file is being written, and how many were before it. */
  file: string;
  done: number;
  /** Once it has begun. */
  thread: AskedThread<PackStep> | null;
}

/** The packs that an application is making: one at a time, each in a thread whose memory is freed when it ends. */
export class PacksAtWork {
  making: Making | null = null;
  /** Why the last one failed; null if it didn't, or was stopped. */
  failure: string | null = null;

  async close(): Promise<void> {
    await this.making?.thread?.end();
  }
}

export interface Packing extends Asking {
  readonly packs: PacksAtWork;
}

/** The approximate number of files in a pack, for showing progress. */
export const FILES_OF_A_PACK = REQUIRED.length + 3;

/** Begins to make a pack without waiting for it. @throws {Problem} if another is being made, or this one isn't possible */
export async function beginPack(app: Packing, asked: PackAsked, by: string): Promise<void> {
  if (app.packs.making) throw new Problem("conflict", "A pack is already being made. Wait for it, or stop it.");
  const making: Making = { asked, file: "", done: 0, thread: null };
  app.packs.making = making;
  app.packs.failure = null;
  try {
    const { from } = packSpan(app, asked);
    if (asked.pseudonyms) await checkNamesNobody(app.db, await firstEntry(app.db, from));
    making.thread = await packThread(app, ({ file }) => {
      if (making.file !== "") making.done++;
      making.file = file;
    });
  } catch (error) {
    app.packs.making = null;
    throw error;
  }
  void make(app, making.thread, { asked, by, standsAt: app.clock.standsAt });
}

async function make({ packs }: Packing, thread: AskedThread<PackStep>, task: PackTask) {
  try {
    await thread.ask(task);
  } catch (error) {
    packs.failure = (error as Error).message;
    console.error(error);
  } finally {
    await thread.end();
    packs.making = null;
  }
}

/** Nothing of it is kept, except for what is already in the ledger. */
export function stopPack({ packs }: Packing) {
  packs.making?.thread?.stop();
}
