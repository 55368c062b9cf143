import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import canonicalize from "canonicalize";

/** What was decided or done, before it has its place in the chain. */
export interface LedgerFact {
  at: string;
  /** Who did it: an address, or what part of the tool. */
  actor: string;
  kind: string;
  body: unknown;
}

/** One entry: each holds the hash of the one before it, so that none can be changed alone. */
export interface LedgerEntry extends LedgerFact {
  seq: number;
  previous: string;
  hash: string;
}

/** What the first entry holds in place of a hash before it. */
export const BEGINNING = "0".repeat(64);

/** SHA-256 over the entry's canonical JSON (RFC 8785), its own hash left out; in hex. */
export function entryHash({ seq, at, actor, kind, body, previous }: Omit<LedgerEntry, "hash">): string {
  const text = canonicalize({ seq, at, actor, kind, body, previous });
  if (text === undefined) throw new Error("a ledger entry must be plain JSON");
  return bytesToHex(sha256(utf8ToBytes(text)));
}

/** The entry that follows another, or the first one. */
export function nextEntry(last: Pick<LedgerEntry, "seq" | "hash"> | undefined, fact: LedgerFact): LedgerEntry {
  const entry = { ...fact, seq: (last?.seq ?? 0) + 1, previous: last?.hash ?? BEGINNING };
  return { ...entry, hash: entryHash(entry) };
}

export type Proof = { unbroken: true; entries: number; root: string } | { unbroken: false; seq: number; why: string };

/**
 * Goes through a chain, or a part of it that follows `after`, and says that it holds, or which entry is
 * the first that doesn't.
 */
export function verifyChain(
  entries: Iterable<LedgerEntry>,
  after: Pick<LedgerEntry, "seq" | "hash"> = { seq: 0, hash: BEGINNING },
): Proof {
  let { seq, hash: root } = after;
  for (const entry of entries) {
    seq++;
    if (entry.seq !== seq) return { unbroken: false, seq, why: `entry ${seq} is missing` };
    if (entry.previous !== root) return { unbroken: false, seq, why: "it does not follow the entry before it" };
    if (entryHash(entry) !== entry.hash) return { unbroken: false, seq, why: "its content is not what was written" };
    root = entry.hash;
  }
  return { unbroken: true, entries: seq, root };
}
