import { randomBytes } from "node:crypto";
import { entryText, type LedgerEntry, nextEntry } from "@/core/ledger/chain";
import { parted, whole } from "@/core/ledger/details";
import { KINDS, type LedgerBody, type LedgerKind } from "@/core/ledger/kinds";
import { leafHash } from "@/core/ledger/merkle";
import { speaksOf } from "@/core/ledger/spelling";
import { fold } from "@/core/text/text";
import { type Db, type Tx, writing } from "../../platform/db/open";
import type { LedgerTable } from "../../platform/db/schema";
import { sha256 } from "./sha256";
import { completedNext } from "./tree";

const SALT_BYTES = 16;

/** Adds an entry by itself, where nothing else is kept with it. */
export function append<K extends LedgerKind>(db: Db, actor: string, kind: K, body: LedgerBody<K>): Promise<void> {
  return writing(db, (tx) => appendWithin(tx, actor, kind, body));
}

/** Adds an entry together with what it tells of: both are kept, or neither. @throws {z.ZodError} on another's body */
export async function appendWithin<K extends LedgerKind>(
  tx: Tx,
  actor: string,
  kind: K,
  told: LedgerBody<K>,
): Promise<void> {
  if (!Object.hasOwn(KINDS, kind)) throw new Error(`no such kind of entry: ${kind}`);
  KINDS[kind].parse(told);
  const { body, detail } = parted(KINDS[kind], told, () => randomBytes(SALT_BYTES));
  const last = await tx
    .selectFrom("ledger")
    .select(["seq", "hash", "nodes"])
    .orderBy("seq", "desc")
    .limit(1)
    .executeTakeFirst();
  const entry = nextEntry(last, { at: tx.clock.text(), actor, kind, body });
  const nodes = await completedNext(tx, last, leafHash(sha256, entryText(entry)));
  await tx
    .insertInto("ledger")
    .values({ ...entry, nodes, detail: detail?.text ?? null, salt: detail?.salt ?? null })
    .execute();
}

const PAGE = 5_000;

/** Entries before a place, newest first, each whole. @param text words that they must all speak of; all entries where it is empty */
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

/** A body that isn't JSON any more was changed by somebody: it is kept as text, and its hash will not fit. */
function toEntry({ nodes: _, salt: __, detail, ...row }: LedgerTable): LedgerEntry {
  try {
    return { ...row, body: whole(JSON.parse(row.body), detail) };
  } catch {
    return { ...row, body: row.body };
  }
}
