import { readdir, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { DAY } from "@/core/time/instant";
import { runningSeconds } from "../../platform/clock";

/** How the names of an unfinished pack’s folder and ZIP begin. */
export const MAKING = "making-";
/** No pack takes nearly as long to make. */
const ABANDONED_AFTER = DAY;

/**
 * Removes what is left of packs whose process ended while it made them. Another process may be making one at this
 * moment: what was written to within a day stays.
 * @param packs the folder of packs, which may be missing
 */
export async function removeAbandoned(packs: string): Promise<void> {
  const names = await readdir(packs).catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return [];
    throw error;
  });
  for (const name of names.filter((one) => one.startsWith(MAKING))) {
    const path = join(packs, name);
    if (await isAbandoned(path)) await rm(path, { recursive: true, force: true });
  }
}

async function isAbandoned(path: string): Promise<boolean> {
  // Its maker may have removed it meanwhile.
  const made = await stat(path).catch(() => undefined);
  return made !== undefined && runningSeconds() - made.mtimeMs / 1_000 > ABANDONED_AFTER;
}
