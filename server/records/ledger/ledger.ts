import { randomBytes } from "node:crypto";
import { entryText, type LedgerEntry, nextEntry } from "@/core/ledger/chain";
import { parted, whole } from "@/core/ledger/details";
import { KINDS, type LedgerBody, type LedgerKind } from "@/core/ledger/kinds";
import { leafHash } from "@/core/ledger/merkle";
import { speaksOf } from "@/core/ledger/spelling";
import { fold } from "@/core/text/text";
import { type Db, type Reads, type Tx, writing } from "../../platform/db/open";
import type { LedgerTable } from "../../platform/db/schema";
import { sha256 } from "./sha256";
import { completedNext } from "./tree";

const SALT_BYTES = 16;
const SALTS_AT_ONCE = 256;

/** Adds an entry by itself, when nothing else is stored with it. */
export function append<K extends LedgerKind>(db: Db, actor: string, kind: K, body: LedgerBody<K>): Promise<void> {
  return writing(db, (tx) => appendWithin(tx, actor, kind, body));
}

/** Adds an entry in the transaction that stores what it describes. @throws {z.ZodError} if the body is another kind's */
export async function appendWithin<K extends LedgerKind>(
  tx: Tx,
  actor: string,
  kind: K,
  told: LedgerBody<K>,
): Promise<void> {
  if (!Object.hasOwn(KINDS, kind)) throw new Error(`no such kind of entry: ${kind}`);
  KINDS[kind].parse(told);
  const { body, detail } = parted(KINDS[kind], told, freshSalt);
  const last = tx.prepare(LAST).get() as Last | undefined;
  const entry = nextEntry(last, { at: tx.clock.text(), actor, kind, body });
  const nodes = completedNext(tx, last, leafHash(sha256, entryText(entry)));
  const { seq, at, previous, hash } = entry;
  const beside = [nodes, detail?.text ?? null, detail?.salt ?? null];
  tx.prepare(ADD).run(seq, at, actor, kind, entry.body, previous, hash, ...beside);
}

/** Entries are added all the time, so rebuilding these queries for each would matter. */
const LAST = "select seq, hash, nodes from ledger order by seq desc limit 1";
const ADD = `insert into ledger (seq, at, actor, kind, body, previous, hash, nodes, detail, salt)
  values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`;
type Last = Pick<LedgerTable, "seq" | "hash" | "nodes">;

/** Asking for many random bytes takes no longer than asking for a few. */
function freshSalt(): Uint8Array {
  if (salts.length === 0) salts = randomBytes(SALT_BYTES * SALTS_AT_ONCE);
  const salt = salts.subarray(0, SALT_BYTES);
  salts = salts.subarray(SALT_BYTES);
  return salt;
}
let salts = Buffer.alloc(0);

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

/** Every entry of one kind with what it says, the newest first. */
export async function entriesOfKind<K extends LedgerKind>(db: Reads, kind: K) {
  const rows = await db.selectFrom("ledger").selectAll().where("kind", "=", kind).orderBy("seq", "desc").execute();
  return rows.map(toEntry).map(({ body, ...entry }) => ({ ...entry, body: body as Partial<LedgerBody<K>> }));
}

/** The number of the first entry at an instant or later; one more than the last if there is none. */
export async function firstSince(db: Reads, at: string): Promise<number> {
  const { seq } = await db
    .selectFrom("ledger")
    .select((eb) => eb.fn.min("seq").as("seq"))
    .where("at", ">=", at)
    .executeTakeFirstOrThrow();
  return seq ?? (await lastSeq(db)) + 1;
}

/** Entries from one number to another, inclusive, as they are stored; read page by page. */
export function* entriesFrom(db: Reads, first: number, last: number): Generator<LedgerTable> {
  const page = db.prepare("select * from ledger where seq between ? and ? order by seq limit ?");
  for (let from = first; from <= last;) {
    const rows = page.all(from, last, PAGE) as LedgerTable[];
    if (rows.length === 0) return;
    yield* rows;
    from = rows[rows.length - 1].seq + 1;
  }
}

/** A body that is no longer JSON was changed by somebody: it is returned as text, and its hash won't match. */
function toEntry({ nodes: _, salt: __, detail, ...row }: LedgerTable): LedgerEntry {
  try {
    return { ...row, body: whole(JSON.parse(row.body), detail) };
  } catch {
    return { ...row, body: row.body };
  }
}

/** By kind: how many entries there are between two instants, and when the last one up to the end was written. */
export async function countsOfKinds(db: Reads, from: string, to: string) {
  const rows = await db
    .selectFrom("ledger")
    .select((eb) => [
      "kind",
      eb.fn.countAll<number>().filterWhere("at", ">=", from).as("count"),
      eb.fn.max("at").as("last"),
    ])
    .where("at", "<=", to)
    .groupBy("kind")
    .execute();
  return new Map(rows.map(({ kind, count, last }) => [kind, { count: Number(count), last }]));
}

/** The number of the last entry; 0 where there is none. */
export async function lastSeq(db: Reads): Promise<number> {
  const row = await db
    .selectFrom("ledger")
    .select((eb) => eb.fn.max("seq").as("seq"))
    .executeTakeFirst();
  return Number(row?.seq ?? 0);
}
