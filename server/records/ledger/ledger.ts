import { BEGINNING, type LedgerEntry, nextEntry, type Proof, verifyChain } from "@/core/ledger/chain";
import { KINDS, type LedgerBody, type LedgerKind } from "@/core/ledger/kinds";
import { speaksOf } from "@/core/ledger/spelling";
import { fold } from "@/core/text/text";
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

const PAGE = 5_000;

/** Entries before a place, newest first. @param text words that they must all speak of; all entries where it is empty */
export async function entriesBefore(db: Db, before: number, limit: number, text = ""): Promise<LedgerEntry[]> {
  const words = fold(text).split(/\s+/).filter(Boolean);
  const found: LedgerEntry[] = [];
  const count = words.length === 0 ? limit : PAGE;
  for (let from = before; ;) {
    const entries = (await rowsBefore(db, from, count)).map(toEntry);
    found.push(...entries.filter((entry) => speaksOf(entry, words)));
    if (found.length >= limit || entries.length < count) return found.slice(0, limit);
    from = entries[entries.length - 1].seq;
  }
}

function rowsBefore(db: Db, before: number, count: number): Promise<LedgerTable[]> {
  return db.selectFrom("ledger").selectAll().where("seq", "<", before).orderBy("seq", "desc").limit(count).execute();
}

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
