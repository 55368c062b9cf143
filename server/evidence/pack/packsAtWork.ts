import { REQUIRED } from "@/core/evidence/pack";
import type { Asking } from "../../engine/client";
import { Problem } from "../../platform/problem";
import type { AskedThread } from "../../platform/thread";
import { checkNamesNobody, firstEntry } from "./ledgerFiles";
import { type PackAsked, packSpan } from "./span";
import { type PackStep, type PackTask, packThread } from "./thread";

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
