import { concatBytes } from "@noble/hashes/utils.js";
import type { Checkpoint } from "@/core/ledger/checkpoint";
import {
  consistencyRanges,
  foldedHash,
  inclusionRanges,
  type LeafRange,
  type NodePlace,
  nodesOf,
  TreeEdge,
} from "@/core/ledger/merkle";
import type { Reads } from "../../platform/db/open";
import { isAmong } from "../../platform/db/among";
import { sha256 } from "./sha256";

/**
 * The tree over the ledger. Each entry keeps the hashes of the nodes that it completes, level by level: nothing else is
 * needed to find any node, and a node never changes.
 */
const HASH_BYTES = 32;

/** The entry that completes a node. */
function completing({ level, index }: NodePlace): number {
  return (index + 1) * 2 ** level;
}

/** The nodes that the entry after the last one completes, level by level, one after the other. */
export async function completedNext(db: Reads, last: { seq: number; nodes: Uint8Array } | undefined, leaf: Uint8Array) {
  const size = last?.seq ?? 0;
  // Only nodes that become part of a larger one are asked for; the smallest of them stands in the last entry.
  const places: NodePlace[] = [];
  for (let level = 0; Math.floor(size / 2 ** level) % 2 === 1; level++)
    places.unshift({ level, index: Math.floor(size / 2 ** level) - 1 });
  const kept =
    places.length > 1
      ? places.map(await nodesAt(db, places.map(completing)))
      : places.map(() => last!.nodes.subarray(0, HASH_BYTES));
  return concatBytes(...new TreeEdge(sha256, size, kept).add(leaf));
}

/** The right edge of the tree of so many entries. @throws where an entry's nodes aren't all there */
export async function edgeAt(db: Reads, size: number): Promise<TreeEdge> {
  const places = nodesOf({ from: 0, to: size });
  const kept = await nodesAt(db, places.map(completing));
  return new TreeEdge(
    sha256,
    size,
    places.map((place) => kept(place)),
  );
}

export async function rootAt(db: Reads, size: number): Promise<Uint8Array> {
  return (await edgeAt(db, size)).root();
}

/** What leads from the leaf of an entry to the root of a tree of that size. @param index the entry's number less one */
export function inclusionProof(db: Reads, index: number, size: number): Promise<Uint8Array[]> {
  return rangeHashes(db, inclusionRanges(index, size));
}

/** What shows that the tree of the second size begins with that of the first. */
export function consistencyProof(db: Reads, first: number, second: number): Promise<Uint8Array[]> {
  return rangeHashes(db, consistencyRanges(first, second));
}

async function rangeHashes(db: Reads, ranges: readonly LeafRange[]): Promise<Uint8Array[]> {
  const places = ranges.map(nodesOf);
  const kept = await nodesAt(db, places.flat().map(completing));
  return places.map((some) => foldedHash(sha256, some.map(kept)));
}

/** How to find nodes in the entries that complete them. */
async function nodesAt(db: Reads, seqs: readonly number[]): Promise<(place: NodePlace) => Uint8Array> {
  const rows = await db.selectFrom("ledger").select(["seq", "nodes"]).where(isAmong("seq", seqs)).execute();
  const bySeq = new Map(rows.map(({ seq, nodes }) => [seq, nodes]));
  return (place) => {
    const seq = completing(place);
    const from = place.level * HASH_BYTES;
    const hash = bySeq.get(seq)?.subarray(from, from + HASH_BYTES);
    if (hash?.length !== HASH_BYTES) throw new Error(`Entry ${seq} of the ledger has lost its part of the tree.`);
    return hash;
  };
}

/** What is signed: of whose ledger, how many entries and which root. */
export async function checkpointAt(db: Reads, origin: string, size: number): Promise<Checkpoint> {
  return { origin, size, root: await rootAt(db, size) };
}
