import { REQUIRED } from "@/core/evidence/pack";
import type { Asking } from "../../engine/client";
import { Problem } from "../../platform/problem";
import { checkNamesNobody, firstEntry } from "./ledgerFiles";
import { type PackAsked, packSpan } from "./span";

/** A pack that is being made. */
interface Making {
  asked: PackAsked;
  by: string;
  /** Which file is being written, and how many were before it. */
  file: string;
  done: number;
  ending: AbortController;
}

/** The packs that an application is making: one at a time. */
export class PacksAtWork {
  making: Making | null = null;
  /** Why the last one failed; null if it didn't, or was stopped. */
  failure: string | null = null;
}

export interface Packing extends Asking {
  readonly packs: PacksAtWork;
}

/** The approximate number of files in a pack, for showing progress. */
export const FILES_OF_A_PACK = REQUIRED.length + 3;

/** Begins to make a pack without waiting for it. @throws {Problem} if another is being made, or this one isn't possible */
export async function beginPack(app: Packing, asked: PackAsked, by: string): Promise<void> {
  if (app.packs.making) throw new Problem("conflict", "A pack is already being made. Wait for it, or stop it.");
  const making: Making = { asked, by, file: "", done: 0, ending: new AbortController() };
  app.packs.making = making;
  app.packs.failure = null;
  try {
    const { from } = await packSpan(app, asked);
    if (asked.pseudonyms) await checkNamesNobody(app.db, await firstEntry(app.db, from));
  } catch (error) {
    app.packs.making = null;
    throw error;
  }
  void make(app, making);
}

async function make(app: Packing, making: Making) {
  try {
    // Loaded when needed: what draws a report is large, and few need it.
    const { makePack } = await import("./make");
    const tell = (file: string) => {
      if (making.file !== "") making.done++;
      making.file = file;
    };
    await makePack(app, making.asked, making.by, { tell, signal: making.ending.signal });
  } catch (error) {
    if (!making.ending.signal.aborted) {
      app.packs.failure = (error as Error).message;
      console.error(error);
    }
  } finally {
    app.packs.making = null;
  }
}

/** Nothing of it is kept, except for what is already in the ledger. */
export function stopPack({ packs }: Packing) {
  packs.making?.ending.abort();
}
