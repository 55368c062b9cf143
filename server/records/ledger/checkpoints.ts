import { checkpointText, noteOf, readNote } from "@/core/ledger/checkpoint";
import type { Held } from "@/core/ledger/check";
import type { LedgerKind } from "@/core/ledger/kinds";
import { DAY, seconds } from "@/core/time/instant";
import type { Platform } from "../../platform/platform";
import { type Reads, type Tx, writing } from "../../platform/db/open";
import type { CheckpointTable } from "../../platform/db/schema";
import { type SigningKey, signingKeys } from "./keys";
import { rootAt } from "./tree";

/** These endings get a checkpoint at once, not only at the end of the day. */
const CLOSING: readonly LedgerKind[] = ["docket-done", "round-closed", "ledger-key-changed"];

/**
 * Makes the checkpoints that are due: one for each docket and round that was closed since the last one, and one for
 * every day on which something was written.
 * @returns how many
 */
export function makeDueCheckpoints(app: Platform): Promise<number> {
  return writing(app.db, async (tx) => {
    const [last, end] = [await lastCheckpoint(tx), await lastEntry(tx)];
    if (!end || end.seq === last?.size) return 0;
    const closed = await tx
      .selectFrom("ledger")
      .select("seq")
      .where("seq", ">", last?.size ?? 0)
      .where("kind", "in", CLOSING)
      .orderBy("seq")
      .execute();
    const sizes = closed.map(({ seq }) => seq);
    const isNewDay = !last || dayOf(app.clock.text()) > dayOf(last.at);
    if (isNewDay && sizes.at(-1) !== end.seq) sizes.push(end.seq);
    for (const size of sizes) await makeCheckpoint(app, tx, size);
    return sizes.length;
  });
}

/** Signs and keeps the current state of the ledger. If nothing was written since, the last checkpoint stands. */
export async function makeCheckpointNow(app: Platform, tx: Tx): Promise<CheckpointTable> {
  const [last, end] = [await lastCheckpoint(tx), await lastEntry(tx)];
  if (!end) throw new Error("a ledger without entries has nothing to sign");
  return last?.size === end.seq ? last : makeCheckpoint(app, tx, end.seq);
}

async function makeCheckpoint(app: Platform, tx: Tx, size: number): Promise<CheckpointTable> {
  const keys = await signingKeys(app, tx);
  const text = checkpointText({ origin: keys[0].name, size, root: rootAt(tx, size) });
  const signatures = signing(keys, await lastCheckpoint(tx)).map((key) => ({
    ...{ name: key.name, id: key.id },
    signature: key.sign(text),
  }));
  const row = { size, at: app.clock.text(), note: noteOf(text, signatures) };
  await tx.insertInto("checkpoint").values(row).execute();
  return row;
}

/** The newest key signs; where it is new since the last checkpoint, the one before signs as well. */
function signing(keys: readonly SigningKey[], last: CheckpointTable | undefined): SigningKey[] {
  const [newest, before] = keys;
  return before && (!last || last.size <= newest.since) ? [newest, before] : [newest];
}

export function lastCheckpoint(db: Reads): Promise<CheckpointTable | undefined> {
  return db.selectFrom("checkpoint").selectAll().orderBy("size", "desc").limit(1).executeTakeFirst();
}

/** Those of so many entries or more, and of fewer than another number, the smallest first. */
export function checkpointsBetween(db: Reads, from: number, before: number): Promise<CheckpointTable[]> {
  return db
    .selectFrom("checkpoint")
    .selectAll()
    .where("size", ">=", from)
    .where("size", "<", before)
    .orderBy("size")
    .execute();
}

export async function countCheckpoints(db: Reads): Promise<number> {
  const { count } = await db
    .selectFrom("checkpoint")
    .select((eb) => eb.fn.countAll<number>().as("count"))
    .executeTakeFirstOrThrow();
  return count;
}

/** Those of more entries than so many, the smallest first. */
export function checkpointsAfter(db: Reads, size: number): Promise<CheckpointTable[]> {
  return db.selectFrom("checkpoint").selectAll().where("size", ">", size).orderBy("size").execute();
}

/** The number of an instant's day in UTC. */
function dayOf(at: string): number {
  return Math.floor(seconds(at) / DAY);
}

function lastEntry(db: Reads) {
  return db.selectFrom("ledger").select("seq").orderBy("seq", "desc").limit(1).executeTakeFirst();
}

/** Every checkpoint kept here, to compare the ledger with. */
export async function heldHere(db: Reads): Promise<Held[]> {
  const rows = await db.selectFrom("checkpoint").select("note").orderBy("size").execute();
  return rows.map(({ note }) => ({ ...readNote(note).checkpoint, by: "this database" }));
}
