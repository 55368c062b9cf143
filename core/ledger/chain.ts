import canonicalize from "canonicalize";
import { sha256 as plainSha256, type Sha256 } from "./hashing";

/** Something decided or done, before it has its place in the chain. */
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

/** Takes the place of the previous hash in the first entry. */
export const BEGINNING = "0".repeat(64);

/** Plain JSON in its one canonical form (RFC 8785). @throws where it isn't plain JSON */
export function canonicalText(value: unknown): string {
  const text = canonicalize(value);
  if (text === undefined) throw new Error("what the ledger keeps must be plain JSON");
  return text;
}

/** An entry of which only the text of its body is known: `body` is canonical JSON. */
export type EntryText = Omit<LedgerEntry, "body"> & { body: string };

/** An entry in canonical JSON (RFC 8785), hash and all: this is what a leaf of the tree is of. */
export function entryText(entry: EntryText): string {
  return entryTexts(entry).whole;
}

/** SHA-256 over an entry's canonical JSON, its own hash left out; in hex. */
export function entryHash(entry: Omit<EntryText, "hash">, sha256: Sha256 = plainSha256): string {
  const [begin, end] = parts(entry);
  return sha256.hex(begin + end);
}

/** Both texts of an entry: what its own hash is of, and the whole. */
export function entryTexts(entry: EntryText): { hashed: string; whole: string } {
  const [begin, end] = parts(entry);
  return { hashed: begin + end, whole: `${begin}"hash":"${entry.hash}",${end}` };
}

/** The keys in their canonical order, up to where the hash stands and after it. Texts are written by RFC 8785 as ECMAScript writes them. */
function parts({ seq, at, actor, kind, body, previous }: Omit<EntryText, "hash">): [begin: string, end: string] {
  return [
    `{"actor":${JSON.stringify(actor)},"at":${JSON.stringify(at)},"body":${body},`,
    `"kind":${JSON.stringify(kind)},"previous":"${previous}","seq":${seq}}`,
  ];
}

/** The entry that follows another, or the first one. */
export function nextEntry(last: Pick<LedgerEntry, "seq" | "hash"> | undefined, fact: LedgerFact): EntryText {
  const body = canonicalText(fact.body);
  const entry = { ...fact, body, seq: (last?.seq ?? 0) + 1, previous: last?.hash ?? BEGINNING };
  return { ...entry, hash: entryHash(entry) };
}
