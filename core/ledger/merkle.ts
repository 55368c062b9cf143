import type { Sha256 } from "./hashing";

/**
 * The Merkle tree of RFC 9162, section 2.1 (the same as RFC 6962's): of n leaves, numbered from 0. A node of level l
 * holds 2^l leaves from a multiple of 2^l on, all of them there: such a node never changes again.
 */
export interface NodePlace {
  level: number;
  /** How many nodes of its level stand before it. */
  index: number;
}

/** Leaves from one on, before another. */
export interface LeafRange {
  from: number;
  to: number;
}

export const HASH_BYTES = 32;

/** @param text what the leaf is of; it is hashed as UTF-8 */
export function leafHash(sha256: Sha256, text: string): Uint8Array {
  return sha256(`\u0000${text}`);
}

export function nodeHash(sha256: Sha256, left: Uint8Array, right: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(1 + 2 * HASH_BYTES);
  bytes[0] = 1;
  bytes.set(left, 1);
  bytes.set(right, 1 + HASH_BYTES);
  return sha256(bytes);
}

/** The hash of no leaves at all. */
export function emptyRoot(sha256: Sha256): Uint8Array {
  return sha256("");
}

/** The complete nodes that make up some leaves, from the left. @param range of which `from` is a multiple of its size, rounded up to a power of two */
export function nodesOf({ from, to }: LeafRange): NodePlace[] {
  const places: NodePlace[] = [];
  for (let at = from; at < to;) {
    const level = Math.floor(Math.log2(to - at));
    places.push({ level, index: at / 2 ** level });
    at += 2 ** level;
  }
  return places;
}

/** The hash over all leaves of some nodes. @param hashes of complete nodes, from the left, each smaller than the one before */
export function foldedHash(sha256: Sha256, hashes: readonly Uint8Array[]): Uint8Array {
  if (hashes.length === 0) return emptyRoot(sha256);
  return hashes.reduceRight((right, left) => nodeHash(sha256, left, right));
}

/** The right edge of a growing tree: all that is needed to add a leaf, and to say the root. */
export class TreeEdge {
  /** Hashes of the complete nodes of all leaves, from the left. */
  private readonly hashes: Uint8Array[];

  constructor(
    private readonly sha256: Sha256,
    public size = 0,
    hashes: readonly Uint8Array[] = [],
  ) {
    this.hashes = [...hashes];
  }

  /** Adds a leaf. Gives the hashes of the nodes that it completes: its own, and those above it, level by level. */
  add(leaf: Uint8Array): Uint8Array[] {
    const completed = [leaf];
    for (let size = this.size; size % 2 === 1; size = (size - 1) / 2)
      completed.push(nodeHash(this.sha256, this.hashes.pop()!, completed[completed.length - 1]));
    this.hashes.push(completed[completed.length - 1]);
    this.size++;
    return completed;
  }

  root(): Uint8Array {
    return foldedHash(this.sha256, this.hashes);
  }
}

/** Of which leaves the hashes of an inclusion proof are, in its order (RFC 9162, 2.1.3.1). */
export function inclusionRanges(index: number, size: number): LeafRange[] {
  return inclusionWithin(index, { from: 0, to: size });
}

function inclusionWithin(index: number, { from, to }: LeafRange): LeafRange[] {
  if (to - from <= 1) return [];
  const middle = from + split(to - from);
  const [left, right] = [
    { from, to: middle },
    { from: middle, to },
  ];
  return index < middle ? [...inclusionWithin(index, left), right] : [...inclusionWithin(index, right), left];
}

/** The largest power of two that is smaller than a number of leaves. */
function split(count: number): number {
  return 2 ** (Math.ceil(Math.log2(count)) - 1);
}

/** Of which leaves the hashes of a consistency proof are, in its order (RFC 9162, 2.1.4.1). @param first more than 0 */
export function consistencyRanges(first: number, second: number): LeafRange[] {
  return first === second ? [] : consistencyWithin(first, { from: 0, to: second }, true);
}

function consistencyWithin(first: number, { from, to }: LeafRange, isWhole: boolean): LeafRange[] {
  if (first === to - from) return isWhole ? [] : [{ from, to }];
  const middle = from + split(to - from);
  const [left, right] = [
    { from, to: middle },
    { from: middle, to },
  ];
  return first <= middle - from
    ? [...consistencyWithin(first, left, isWhole), right]
    : [...consistencyWithin(first - (middle - from), right, false), left];
}

/** Whether a leaf stands at its place in a tree of that size and root (RFC 9162, 2.1.3.2). */
export function holdsInclusion(
  sha256: Sha256,
  {
    leaf,
    index,
    size,
    path,
    root,
  }: { leaf: Uint8Array; path: readonly Uint8Array[]; root: Uint8Array } & {
    index: number;
    size: number;
  },
): boolean {
  if (!Number.isInteger(index) || index < 0 || index >= size) return false;
  let [at, last] = [index, size - 1];
  let hash = leaf;
  for (const other of path) {
    if (last === 0 || other.length !== HASH_BYTES) return false;
    if (at % 2 === 1 || at === last) {
      hash = nodeHash(sha256, other, hash);
      while (at % 2 === 0 && at !== 0) [at, last] = [at / 2, Math.floor(last / 2)];
    } else hash = nodeHash(sha256, hash, other);
    [at, last] = [Math.floor(at / 2), Math.floor(last / 2)];
  }
  return last === 0 && isSame(hash, root);
}

/** One tree at two sizes. */
export interface Grown {
  first: number;
  second: number;
  firstRoot: Uint8Array;
  secondRoot: Uint8Array;
}

/** Whether the second tree begins with all leaves of the first (RFC 9162, 2.1.4.2). */
export function holdsConsistency(sha256: Sha256, grown: Grown, proof: readonly Uint8Array[]): boolean {
  const { first, second, firstRoot, secondRoot } = grown;
  if (first < 1 || first > second || proof.some(({ length }) => length !== HASH_BYTES)) return false;
  if (first === second) return proof.length === 0 && isSame(firstRoot, secondRoot);
  const path = Number.isInteger(Math.log2(first)) ? [firstRoot, ...proof] : [...proof];
  if (path.length === 0) return false;
  let [at, last] = [first - 1, second - 1];
  while (at % 2 === 1) [at, last] = [Math.floor(at / 2), Math.floor(last / 2)];
  let [was, is] = [path[0], path[0]];
  for (const other of path.slice(1)) {
    if (last === 0) return false;
    if (at % 2 === 1 || at === last) {
      [was, is] = [nodeHash(sha256, other, was), nodeHash(sha256, other, is)];
      while (at % 2 === 0 && at !== 0) [at, last] = [at / 2, Math.floor(last / 2)];
    } else is = nodeHash(sha256, is, other);
    [at, last] = [Math.floor(at / 2), Math.floor(last / 2)];
  }
  return last === 0 && isSame(was, firstRoot) && isSame(is, secondRoot);
}

/** Whether two hashes are the same. */
export function isSame(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
