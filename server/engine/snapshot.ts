import type { Belief } from "@/core/estate/believed";
import { Estate } from "@/core/estate/estate";
import { Register } from "@/core/register/register";
import type { Db } from "../platform/db/open";
import { factSign } from "../records/facts";
import type { Mark } from "../records/marks";
import type { Begun } from "./begun";
import { readColumnFile, writeColumnFile } from "./columnFile";

/** Part of each snapshot; to be raised whenever the columns change their shape. */
const FORMAT = 8;

interface Snapshot {
  format: number;
  mark: Mark;
  /** Identifies the last fact in it, which differs in another database. */
  lastFact: string;
  belief: Belief;
  columns: ReturnType<Estate["columns"]>;
  register: ReturnType<Register["columns"]>;
  /** The build that worked out the register; another may judge differently. */
  build: string;
}

/** Where columns are kept, and by which build of the engine. */
export interface Keeping {
  path: string;
  build: string;
}

/**
 * The engine's columns on disk, so that a start needs no record to be parsed and no share to be judged. It holds no address of a
 * link and no other secret. It is only ever a copy: one that is missing, broken or of another database is passed over.
 */
export async function readSnapshot(
  db: Db,
  { path, build }: Keeping,
  belief: Belief,
): Promise<{ mark: Mark; estate: Estate; register: Register | null } | null> {
  const snapshot = (await readColumnFile(path)) as Snapshot | null;
  if (!snapshot || snapshot.format !== FORMAT || snapshot.lastFact !== (await factSign(db, snapshot.mark.fact)))
    return null;
  const { mark, columns, register } = snapshot;
  const estate = Estate.restore(columns, belief);
  const isTrue = register !== null && snapshot.build === build && snapshot.belief.join("\n") === belief.join("\n");
  return { mark, estate, register: isTrue ? Register.restore(estate, register) : null };
}

export async function writeSnapshot(db: Db, { path, build }: Keeping, mark: Mark, begun: Begun): Promise<void> {
  const lastFact = await factSign(db, mark.fact);
  if (lastFact === null) return;
  const { estate, register } = begun;
  const { belief } = estate.principals;
  const columns = { columns: estate.columns(), register: register.columns() };
  const snapshot: Snapshot = { format: FORMAT, mark, lastFact, belief, build, ...columns };
  await writeColumnFile(path, snapshot);
}
