import { hash } from "node:crypto";
import { CoMETRE } from "@transmute/rfc9162";
import fc from "fast-check";
import { hex, hexToBytes } from "./bytes";
import { type Sha256, sha256 as plainSha256 } from "./hashing";
import {
  consistencyRanges,
  emptyRoot,
  foldedHash,
  holdsConsistency,
  holdsInclusion,
  inclusionRanges,
  leafHash,
  type LeafRange,
  nodesOf,
  TreeEdge,
} from "./merkle";

/** Node's own, which is quicker. */
const sha256 = Object.assign((data: string | Uint8Array) => hash("sha256", data, "buffer"), {
  hex: (data: string | Uint8Array) => hash("sha256", data, "hex"),
}) satisfies Sha256;

/** The leaves and roots that the authors of RFC 6962 publish with their reference implementation; from memory. */
const LEAVES = ["", "00", "10", "2021", "3031", "40414243", "5051525354555657", "606162636465666768696a6b6c6d6e6f"];
const ROOTS = [
  "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855",
  "6e340b9cffb37a989ca544e6bb780a2c78901d3fb33738768511a30617afa01d",
  "fac54203e7cc696cf0dfcb42c92a1d9dbaf70ad9e621f4bd8d98662f00e3c125",
  "aeb6bcfe274b70a14fb067a5e5578264db0fa9b51af5e0ba159158f329e06e77",
  "d37ee418976dd95753c1c73862b9398fa2a2cf9b4ff0fdfe8b30cd95209614b7",
  "4e3bbb1f7b478dcfe71fb631631519a3bca12c9aefca1612bfce4c13a86264d4",
  "76e67dadbcdf1e10e1b74ddc608abd2f98dfb16fbce75277b5232a127f2087ef",
  "ddb89be403809e325750d3d263cd78929c2942b7942a34b77e122c9594a74c8c",
  "5dc9da79a70659a9ad559cb701ded9a2ab9d823aad2f4960cfe370eff4604328",
];
const published = LEAVES.map((bytes) => leafHash(sha256, new TextDecoder().decode(hexToBytes(bytes))));

const MOST = 300;
const leaves = Array.from({ length: MOST }, (_, i) => leafHash(sha256, `entry ${i}`));
/** @transmute/rfc9162: another's implementation, from the registry. */
const other = CoMETRE.RFC9162_SHA256;
const known = new Map<string, Uint8Array>();
const rangeHash = (all: readonly Uint8Array[], { from, to }: LeafRange) => {
  const key = `${from}-${to}`;
  const edge = new TreeEdge(sha256);
  if (!known.has(key)) for (const leaf of all.slice(from, to)) edge.add(leaf);
  const hash = known.get(key) ?? edge.root();
  known.set(key, hash);
  return hash;
};
const rootOf = (size: number) => rangeHash(leaves, { from: 0, to: size });

test("the published roots of the published leaves", () => {
  const edge = new TreeEdge(plainSha256);
  const roots = [edge.root(), ...published.map((leaf) => (edge.add(leaf), edge.root()))];
  expect(roots.map(hex)).toEqual(ROOTS);
  expect(hex(emptyRoot(plainSha256))).toBe(ROOTS[0]);
});

const roots = Array.from({ length: MOST + 1 }, (_, size) => rootOf(size));
const pathOf = (index: number, size: number) => inclusionRanges(index, size).map((range) => rangeHash(leaves, range));
const proofOf = (first: number, second: number) =>
  consistencyRanges(first, second).map((range) => rangeHash(leaves, range));
const hexes = (some: readonly Uint8Array[]) => some.map(hex);
const holds = (index: number, size: number, path: readonly Uint8Array[], leaf = leaves[index]) =>
  holdsInclusion(sha256, { leaf, index, size, path, root: roots[size] });

test("what leads from a leaf to the root is the same as another implementation's, and holds there, at all sizes to 300", async () => {
  for (let size = 1; size <= MOST; size++) {
    const index = (size * 7) % size;
    const theirs = await other.inclusion_proof(index, leaves.slice(0, size));
    expect([size, hexes(pathOf(index, size))]).toEqual([size, hexes(theirs.inclusion_path)]);
    for (const at of new Set([0, 1, size >> 1, size - 2, size - 1].filter((at) => at >= 0 && at < size))) {
      const path = pathOf(at, size);
      const proof = { log_id: "", tree_size: size, leaf_index: at, inclusion_path: path };
      const root = await other.verify_inclusion_proof(leaves[at], proof);
      expect([size, at, hex(root), holds(at, size, path)]).toEqual([size, at, hex(roots[size]), true]);
    }
  }
});

test("another leaf, place, size or path doesn't hold", () => {
  fc.assert(
    fc.property(fc.integer({ min: 2, max: MOST }), fc.nat(), fc.nat(), (size, first, second) => {
      const index = first % size;
      const path = pathOf(index, size);
      const wrong = path.map((one, i) => (i === second % path.length ? leaves[0].map((byte) => byte ^ 1) : one));
      expect([holds(index, size, path), holds(index, size, wrong)]).toEqual([true, false]);
      expect(holds(index, size, path, leaves[(index + 1) % size])).toBe(false);
      expect(holds((index + 1 + (second % (size - 1))) % size, size, path, leaves[index])).toBe(false);
      expect(holds(index, size, path.slice(1))).toBe(false);
      expect(holds(index, size, [...path, path[0]])).toBe(false);
      expect([-1, 0.5, size].map((at) => holds(at, size, path, leaves[index]))).toEqual([false, false, false]);
    }),
  );
});

test("what shows that a tree only grew is the same as another implementation's, and holds, for all pairs to 60", async () => {
  for (let second = 1; second <= 60; second++)
    for (let first = 1; first <= second; first++) {
      const proof = proofOf(first, second);
      const was = { log_id: "", tree_size: first, leaf_index: 0, inclusion_path: [] };
      const theirs = (await other.consistency_proof(was, leaves.slice(0, second))).consistency_path;
      // Theirs has the first root as well where that is a whole node: RFC 9162 puts it there when it verifies.
      const isNode = first === second || Number.isInteger(Math.log2(first));
      expect([first, second, hexes(isNode ? [roots[first], ...proof] : proof)]).toEqual([first, second, hexes(theirs)]);
      const grown = { first, second, firstRoot: roots[first], secondRoot: roots[second] };
      expect([first, second, holdsConsistency(sha256, grown, proof)]).toEqual([first, second, true]);
    }
});

test("a tree that was rewritten, cut or is another doesn't hold", () => {
  fc.assert(
    fc.property(fc.integer({ min: 2, max: MOST }), fc.nat(), fc.nat(), (second, one, two) => {
      const first = 1 + (one % (second - 1));
      const proof = proofOf(first, second);
      const grown = { first, second, firstRoot: roots[first], secondRoot: roots[second] };
      const held = (changed: Partial<typeof grown>, given = proof) =>
        holdsConsistency(sha256, { ...grown, ...changed }, given);
      expect(held({})).toBe(true);
      const forged = proof.map((hash, i) => (i === two % proof.length ? roots[0] : hash));
      expect(held({}, forged)).toBe(false);
      expect(held({ firstRoot: roots[first + 1] })).toBe(false);
      expect(held({ secondRoot: roots[first] })).toBe(false);
      expect(held({ first: second, second: first })).toBe(false);
      expect([held({}, proof.slice(1)), held({}, [...proof, proof[0]]), held({ first: 0 })]).toEqual([
        false,
        false,
        false,
      ]);
    }),
  );
});

test("an edge that is continued from its nodes goes on as one that was never left", () => {
  fc.assert(
    fc.property(fc.nat(MOST - 1), (size) => {
      const nodes = nodesOf({ from: 0, to: size }).map(({ level, index }) =>
        rangeHash(leaves, { from: index * 2 ** level, to: (index + 1) * 2 ** level }),
      );
      const edge = new TreeEdge(sha256, size, nodes);
      expect(hex(foldedHash(sha256, nodes))).toBe(hex(roots[size]));
      const completed = edge.add(leaves[size]);
      expect(hex(edge.root())).toBe(hex(roots[size + 1]));
      // It completes a node for each time that the new size can be halved.
      expect(2 ** (completed.length - 1)).toBe((size + 1) & -(size + 1));
    }),
  );
});
