import { readFile, rename, rm, writeFile } from "node:fs/promises";
import { deserialize, serialize } from "node:v8";
import type { Belief } from "@/core/estate/believed";
import { Estate } from "@/core/estate/estate";
import type { Db } from "../platform/db/open";
import { factSign, type Mark } from "../records/facts";

/** Told with each snapshot; to be raised whenever the columns change their shape. */
const FORMAT = 3;

interface Snapshot {
  format: number;
  mark: Mark;
  /** Of the last fact that is in it: in another database that one is another. */
  lastFact: string;
  columns: ReturnType<Estate["columns"]>;
}

/**
 * The engine's columns on disk, so that a start needs no record to be parsed. It holds no address of a
 * link and no other secret. It is only ever a copy: one that is missing, broken or of another database is passed over.
 */
export async function readSnapshot(
  db: Db,
  path: string,
  belief: Belief,
): Promise<{ mark: Mark; estate: Estate } | null> {
  const bytes = await readFile(path).catch(() => null);
  const snapshot = bytes && readable(bytes);
  if (!snapshot || snapshot.format !== FORMAT || snapshot.lastFact !== (await factSign(db, snapshot.mark.fact)))
    return null;
  return { mark: snapshot.mark, estate: Estate.restore(snapshot.columns, belief) };
}

function readable(bytes: Buffer): Snapshot | null {
  try {
    return deserialize(bytes) as Snapshot;
  } catch {
    // A file that was cut off says nothing; the facts say all.
    return null;
  }
}

export async function writeSnapshot(db: Db, path: string, mark: Mark, estate: Estate): Promise<void> {
  const lastFact = await factSign(db, mark.fact);
  if (lastFact === null) return;
  const snapshot: Snapshot = { format: FORMAT, mark, lastFact, columns: estate.columns() };
  const temporary = `${path}.new`;
  await rm(temporary, { force: true });
  await writeFile(temporary, serialize(snapshot), { mode: 0o600, flush: true });
  await rename(temporary, path);
}
