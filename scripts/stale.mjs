import { readdirSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Whether something made is missing, or older than any of the files and folders that it is made from. */
export function isStale(made, sources) {
  const at = statSync(made, { throwIfNoEntry: false })?.mtimeMs;
  return at === undefined || sources.some((source) => newest(join(root, source)) > at);
}

/** The latest change of a file, or of anything in a folder; tests don't count. */
function newest(path) {
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat) return 0;
  if (!stat.isDirectory()) return /\.test\.tsx?$/.test(path) ? 0 : stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((name) => newest(join(path, name))));
}
