import { BEGINNING, type LedgerEntry, nextEntry, type Proof, verifyChain } from "@/core/ledger/chain";
import { KINDS, type LedgerBody, type LedgerKind } from "@/core/ledger/kinds";
import { type Db, type Tx, writing } from "../platform/db/open";
import type { LedgerTable } from "../platform/db/schema";

/** Adds an entry by itself, where nothing else is kept with it. */
export function append<K extends LedgerKind>(db: Db, actor: string, kind: K, body: LedgerBody<K>): Promise<void> {
  return writing(db, (tx) => appendWithin(tx, actor, kind, body));
}

/** Adds an entry together with what it tells of: both are kept, or neither. @throws {z.ZodError} on another's body */
export async function appendWithin<K extends LedgerKind>(
  tx: Tx,
  actor: string,
  kind: K,
  body: LedgerBody<K>,
): Promise<void> {
  if (!Object.hasOwn(KINDS, kind)) throw new Error(`no such kind of entry: ${kind}`);
  KINDS[kind].parse(body);
  const last = await tx.selectFrom("ledger").select(["seq", "hash"]).orderBy("seq", "desc").limit(1).executeTakeFirst();
  const entry = nextEntry(last, { at: tx.clock.text(), actor, kind, body });
  await tx
    .insertInto("ledger")
    .values({ ...entry, body: JSON.stringify(body) })
    .execute();
}

/** Entries before a place, newest first. */
export async function entriesBefore(db: Db, before: number, limit: number): Promise<LedgerEntry[]> {
  const rows = await db
    .selectFrom("ledger")
    .selectAll()
    .where("seq", "<", before)
    .orderBy("seq", "desc")
    .limit(limit)
    .execute();
  return rows.map(toEntry);
}

const PAGE = 5_000;

/** Reads the whole ledger, page by page, and checks every hash. */
export async function verifyLedger(db: Db): Promise<Proof> {
  let after: Pick<LedgerEntry, "seq" | "hash"> = { seq: 0, hash: BEGINNING };
  for (;;) {
    const rows = await db
      .selectFrom("ledger")
      .selectAll()
      .where("seq", ">", after.seq)
      .orderBy("seq")
      .limit(PAGE)
      .execute();
    if (rows.length === 0) return { unbroken: true, entries: after.seq, root: after.hash };
    const proof = verifyChain(rows.map(toEntry), after);
    if (!proof.unbroken) return proof;
    after = { seq: proof.entries, hash: proof.root };
  }
}

/** A body that isn't JSON any more was changed by somebody: it is kept as text, and its hash will not fit. */
function toEntry(row: LedgerTable): LedgerEntry {
  try {
    return { ...row, body: JSON.parse(row.body) };
  } catch {
    return { ...row, body: row.body };
  }
}
