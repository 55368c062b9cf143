import { concatBytes } from "@noble/hashes/utils.js";
import fc from "fast-check";
import { hex } from "./bytes";
import { entryHash, entryText, nextEntry } from "./chain";
import { type Held, type KeptEntry, LedgerCheck } from "./check";
import { parted } from "./details";
import { sha256 } from "./hashing";
import { KINDS } from "./kinds";
import { leafHash, TreeEdge } from "./merkle";

const salt = () => new Uint8Array(16).fill(7);

/** A ledger of notes, as it is kept. */
function ledgerOf(texts: readonly string[]): KeptEntry[] {
  const edge = new TreeEdge(sha256);
  const entries: KeptEntry[] = [];
  for (const text of texts) {
    const { body, detail } = parted(KINDS["note-left"], { shareId: "s", text }, salt);
    const fact = { at: "2026-10-05T08:00:00Z", actor: "ida@home.example", kind: "note-left", body };
    const entry = nextEntry(entries.at(-1), fact);
    const nodes = concatBytes(...edge.add(leafHash(sha256, entryText(entry))));
    entries.push({ ...entry, nodes, detail: detail!.text, salt: detail!.salt });
  }
  return entries;
}

function checked(entries: readonly KeptEntry[], held: readonly Held[] = []) {
  const check = new LedgerCheck(sha256, held);
  for (const entry of entries) {
    const fault = check.take(entry);
    if (fault) return { unbroken: false, ...fault };
  }
  return check.end();
}

/** A checkpoint of so many entries of a ledger, as the folder holds it. */
function heldOf(entries: readonly KeptEntry[], size: number): Held {
  const edge = new TreeEdge(sha256);
  for (const entry of entries.slice(0, size)) edge.add(leafHash(sha256, entryText(entry)));
  return { origin: "tight-latch/hall.example", size, root: edge.root(), by: "the folder" };
}

const five = ledgerOf(["one", "two", "three", "four", "five"]);

test("a ledger holds as it was written, and has grown from each of its checkpoints", () => {
  expect(checked([])).toMatchObject({ unbroken: true, entries: 0 });
  const held = [5, 2, 3].map((size) => heldOf(five, size));
  expect(checked(five, held)).toEqual({ unbroken: true, entries: 5, root: hex(held[0].root) });
});

test("any change of any field of any entry is found there", () => {
  const fields = fc.constantFrom("at", "actor", "kind", "body", "previous", "hash", "detail");
  fc.assert(
    fc.property(fc.array(fc.string(), { minLength: 1, maxLength: 8 }), fc.nat(), fields, (texts, at, field) => {
      const index = at % texts.length;
      const changed = ledgerOf(texts).map((entry, i) =>
        i === index ? { ...entry, [field]: `${entry[field as "kind"]}x` } : entry,
      );
      expect(checked(changed)).toMatchObject({ unbroken: false, seq: index + 1 });
    }),
  );
});

test("an entry that was taken out is missing, and one that was written anew doesn't fit", () => {
  expect(checked(five.filter(({ seq }) => seq !== 2))).toMatchObject({ seq: 2, why: "entry 2 is missing" });
  const forged = { ...five[1], body: "20" };
  const rewritten = [five[0], { ...forged, hash: entryHash(forged) }, ...five.slice(2)];
  expect(checked(rewritten)).toMatchObject({ unbroken: false, seq: 2 });
  const otherNodes = five.map((entry) => (entry.seq === 4 ? { ...entry, nodes: five[1].nodes } : entry));
  expect(checked(otherNodes)).toMatchObject({ seq: 4, why: "the tree kept beside it is another" });
});

test("a detail that was taken out leaves all else as it was; one that was changed is found", () => {
  const without = five.map((entry) => ({ ...entry, detail: null, salt: null }));
  expect(checked(without, [heldOf(five, 5)])).toMatchObject({ unbroken: true, entries: 5 });
  const changed = five.map((entry) => (entry.seq === 3 ? { ...entry, detail: '{"text":"other"}' } : entry));
  expect(checked(changed)).toMatchObject({ seq: 3, why: "the detail kept beside it is not what was written" });
});

test("what was cut off at its end is told by whoever holds a checkpoint of more", () => {
  const held = [heldOf(five, 3), heldOf(five, 5)];
  expect(checked(five.slice(0, 3), held)).toEqual({
    ...{ unbroken: false, seq: 4 },
    why: "it ends with entry 3, and the folder holds a checkpoint of 5 entries: the last 2 were cut off",
  });
});

test("what was written anew as a whole, every hash right, is told by whoever holds an older checkpoint", () => {
  const anew = ledgerOf(["one", "TWO", "three", "four", "five"]);
  expect(checked(anew)).toMatchObject({ unbroken: true });
  expect(checked(anew, [heldOf(five, 1), heldOf(five, 4)])).toEqual({
    ...{ unbroken: false, seq: 4 },
    why: "it was rewritten up to here: the folder holds another checkpoint of 4 entries",
  });
});

test("entries of before bodies were kept in their canonical form are hashed in that form", () => {
  const plain = nextEntry(undefined, { at: "2026-10-05T08:00:00Z", actor: "me", kind: "k", body: { b: 1, a: 2 } });
  const nodes = leafHash(sha256, entryText(plain));
  expect(checked([{ ...plain, body: '{"b": 1, "a": 2}', nodes, detail: null, salt: null }])).toMatchObject({
    unbroken: true,
  });
});
