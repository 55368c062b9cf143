import { mkdirSync, statSync } from "node:fs";
import { BadSettings } from "./badSettings";

/** Of a file's mode: what its group and all others may do. */
const OF_OTHERS = 0o077;

/** Whatever this process writes from now on is for the account that it runs under alone. */
export function keepFilesToOwner(): void {
  process.umask(OF_OTHERS);
}

/** Makes a folder for the account of this process alone. @throws {BadSettings} where others can get into one that is there */
export function ownFolder(folder: string): void {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const { mode, uid } = statSync(folder);
  // Windows tells of no such rights.
  if (!process.getuid) return;
  if (uid !== process.getuid())
    throw new BadSettings(`LATCH_DATA: ${folder} belongs to another account. Use one of your own, or chown it.`);
  if (mode & OF_OTHERS)
    throw new BadSettings(`LATCH_DATA: others on this machine can get into ${folder}. Type: chmod 700 "${folder}"`);
}
