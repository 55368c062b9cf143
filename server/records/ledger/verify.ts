import { Worker } from "node:worker_threads";
import { BEGINNING } from "@/core/ledger/chain";
import { type Fault, type Held, type KeptEntry, LedgerCheck, type Proof } from "@/core/ledger/check";
import { installed } from "../../platform/installation";
import type { Reads } from "../../platform/db/open";
import { sha256 } from "./sha256";
import { edgeAt, LostNode, type Prepares } from "./tree";

/** Entries after one up to another, checked by themselves: what is stored about the one before is trusted. */
export interface LedgerPart {
  after: number;
  /** Infinity goes on to the end. */
  to: number;
}

/** Few enough that garbage collection is cheap: more would survive long enough to be copied. */
const PAGE = 250;
/** With fewer entries, starting a thread takes longer than it saves. */
const LEAST_A_PART = 50_000;
const PARTS = 2;

/**
 * Reads the whole ledger and checks it all. A long one is checked part by part, each in a thread of its own, so that
 * nothing else waits for it.
 * @param held checkpoints to compare it with
 */
export async function verifyLedger(db: Reads, held: readonly Held[] = []): Promise<Proof> {
  const { size } = db.prepare("select coalesce(max(seq), 0) as size from ledger").get() as { size: number };
  if (size < PARTS * LEAST_A_PART) return verifyPart(db, { after: 0, to: Infinity }, held);
  const proofs = await Promise.all(partsOf(size).map((part) => inThread(db.sqlite.name, part, held)));
  return firstFault(proofs) ?? proofs[proofs.length - 1];
}

/** A ledger of that size in parts, the last of them open. */
function partsOf(size: number): LedgerPart[] {
  const length = Math.ceil(size / PARTS);
  return Array.from({ length: PARTS }, (_, i) => ({
    after: i * length,
    to: i === PARTS - 1 ? Infinity : (i + 1) * length,
  }));
}

/** The earliest fault is the one to report. */
export function firstFault(proofs: readonly Proof[]): Proof | undefined {
  return proofs.find(({ unbroken }) => !unbroken);
}

/** Checks one part. */
export function verifyPart(db: Prepares, part: LedgerPart, held: readonly Held[]): Proof {
  try {
    return verified(db, part, held);
  } catch (error) {
    if (!(error instanceof LostNode)) throw error;
    return { unbroken: false, seq: error.seq, why: "a part of the tree kept beside it is gone" };
  }
}

function verified(db: Prepares, { after, to }: LedgerPart, held: readonly Held[]): Proof {
  const check = new LedgerCheck(sha256, upTo(held, to), after === 0 ? undefined : from(db, after));
  for (const entry of keptEntries(db, after, to)) {
    const fault: Fault | null = check.take(entry);
    if (fault) return { unbroken: false, ...fault };
  }
  return check.end();
}

/** Checkpoints of more entries belong to the parts that follow. */
function upTo(held: readonly Held[], to: number): Held[] {
  return held.filter(({ size }) => size <= to);
}

function from(db: Prepares, seq: number) {
  const row = db.prepare("select hash from ledger where seq = ?").get(seq) as { hash: string } | undefined;
  return { hash: row?.hash ?? BEGINNING, edge: edgeAt(db, seq) };
}

type Row = [
  ...[seq: number, at: string, actor: string, kind: string, body: string, previous: string, hash: string],
  ...[detail: string | null, nodes: string, salt: string | null],
];

/** Every entry of a part as it is kept. Bytes come in hex: as they are, each would lie outside Node's pool. */
function* keptEntries(db: Prepares, after: number, to: number): Generator<KeptEntry> {
  const page = db
    .prepare(
      `select seq, at, actor, kind, body, previous, hash, detail, hex(nodes), iif(salt is null, null, hex(salt))
        from ledger where seq > ? order by seq limit ?`,
    )
    .raw();
  for (let last = after; last < to;) {
    const rows = page.all(last, Math.min(PAGE, to - last)) as Row[];
    if (rows.length === 0) return;
    for (const [seq, at, actor, kind, body, previous, hash, detail, nodes, salt] of rows)
      // Field by field: copying a row with rest syntax takes as long as reading it.
      yield {
        seq,
        at,
        actor,
        kind,
        body,
        previous,
        hash,
        detail,
        nodes: Buffer.from(nodes, "hex"),
        salt: salt === null ? null : Buffer.from(salt, "hex"),
      };
    last = rows[rows.length - 1][0];
  }
}

function inThread(path: string, part: LedgerPart, held: readonly Held[]): Promise<Proof> {
  const worker = new Worker(installed("dist", "verify.mjs"), { workerData: { path, part, held } });
  return new Promise((resolve, reject) => {
    worker.once("message", resolve).once("error", reject);
    worker.once("exit", () => reject(new Error("The thread that verifies the ledger ended before it was done.")));
  });
}
