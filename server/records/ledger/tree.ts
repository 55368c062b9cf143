import { concatBytes } from "@noble/hashes/utils.js";
import {
  consistencyRanges,
  foldedHash,
  HASH_BYTES,
  inclusionRanges,
  type LeafRange,
  nodesOf,
  type NodePlace,
  TreeEdge,
} from "@/core/ledger/merkle";
import type { Reads } from "../../platform/db/open";
import { sha256 } from "./sha256";

/*
 * The tree over the ledger. Each entry keeps the hashes of the nodes that it completes, level by level: nothing else is
 * needed to find any node, and a node never changes.
 */

const NODES = "select nodes from ledger where seq = ?";

/** A part of the tree is missing. */
export class LostNode extends Error {
  constructor(readonly seq: number) {
    super(`Entry ${seq} of the ledger has lost its part of the tree.`);
  }
}

/** A database connection that is only read from. */
export type Prepares = Pick<Reads, "prepare">;

/** The nodes that the entry after the last one completes, level by level, one after the other. */
export function completedNext(db: Prepares, last: { seq: number; nodes: Uint8Array } | undefined, leaf: Uint8Array) {
  const size = last?.seq ?? 0;
  // Only nodes that become part of a larger one are asked for; the smallest of them stands in the last entry.
  const kept: Uint8Array[] = [];
  for (let level = 0; Math.floor(size / 2 ** level) % 2 === 1; level++) {
    const index = Math.floor(size / 2 ** level) - 1;
    kept.unshift(level === 0 ? last!.nodes.subarray(0, HASH_BYTES) : nodeAt(db, { level, index }));
  }
  return concatBytes(...new TreeEdge(sha256, size, kept).add(leaf));
}
/** The right edge of the tree of so many entries. @throws if any of an entry's nodes is missing */
export function edgeAt(db: Prepares, size: number): TreeEdge {
  return new TreeEdge(
    sha256,
    size,
    nodesOf({ from: 0, to: size }).map((place) => nodeAt(db, place)),
  );
}

export function rootAt(db: Prepares, size: number): Uint8Array {
  return edgeAt(db, size).root();
}

/** What leads from the leaf of an entry to the root of a tree of that size. @param index the entry's number less one */
export function inclusionProof(db: Prepares, index: number, size: number): Uint8Array[] {
  return inclusionRanges(index, size).map((range) => rangeHash(db, range));
}

/** What shows that the tree of the second size begins with that of the first. */
export function consistencyProof(db: Prepares, first: number, second: number): Uint8Array[] {
  return consistencyRanges(first, second).map((range) => rangeHash(db, range));
}

function rangeHash(db: Prepares, range: LeafRange): Uint8Array {
  return foldedHash(
    sha256,
    nodesOf(range).map((place) => nodeAt(db, place)),
  );
}

function nodeAt(db: Prepares, { level, index }: NodePlace): Uint8Array {
  const seq = (index + 1) * 2 ** level;
  const row = db.prepare(NODES).get(seq) as { nodes: Uint8Array } | undefined;
  const hash = row?.nodes.subarray(level * HASH_BYTES, (level + 1) * HASH_BYTES);
  if (hash?.length !== HASH_BYTES) throw new LostNode(seq);
  return hash;
}
