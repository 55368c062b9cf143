import { ed25519 } from "@noble/curves/ed25519.js";
import { concatBytes, utf8ToBytes } from "@noble/hashes/utils.js";
import { base64, base64ToBytes, hex, isHex } from "./bytes";
import { sha256 } from "./hashing";

/** What a ledger was at some time: how many entries it had, and the root of its tree. */
export interface Checkpoint {
  /** Whose ledger it is; also the name of the key that signs. No space and no plus sign stand in it. */
  origin: string;
  size: number;
  root: Uint8Array;
}

/** A public key, under the name of whoever signs by it. */
export interface NoteKey {
  name: string;
  /** Eight hex digits. */
  id: string;
  /** 32 bytes of Ed25519 (RFC 8032). */
  publicKey: Uint8Array;
}

interface NoteSignature {
  name: string;
  id: string;
  signature: Uint8Array;
}

/** A checkpoint as it is signed: a text, and who signed it. */
export interface SignedNote {
  text: string;
  checkpoint: Checkpoint;
  signatures: NoteSignature[];
}

/** A note or a key that isn't written as one. */
export class NoNote extends Error {}

const ED25519 = 1;
const [KEY_BYTES, ID_BYTES, ROOT_BYTES, SIGNATURE_BYTES] = [32, 4, 32, 64];

/** The three lines that are signed. */
export function checkpointText({ origin, size, root }: Checkpoint): string {
  return `${origin}\n${size}\n${base64(root)}\n`;
}

/** The first four bytes of SHA-256 over the name, a line end, the kind of key and the key; in hex. */
export function keyId(name: string, publicKey: Uint8Array): string {
  return hex(sha256(concatBytes(utf8ToBytes(`${name}\n`), Uint8Array.of(ED25519), publicKey)).subarray(0, ID_BYTES));
}

/** A text with its signatures: an empty line, and a line for each. @param signatures the newest key's first */
export function noteOf(text: string, signatures: readonly NoteSignature[]): string {
  const lines = signatures.map(({ name, id, signature }) => {
    const idBytes = Uint8Array.from(id.match(/../g)!, (byte) => parseInt(byte, 16));
    return `\u2014 ${name} ${base64(concatBytes(idBytes, signature))}\n`;
  });
  return `${text}\n${lines.join("")}`;
}

/** @throws {NoNote} that says what is wrong */
export function readNote(note: string): SignedNote {
  const parts = /^([^\n]+)\n(0|[1-9]\d{0,15})\n([A-Za-z0-9+/]+=*)\n\n((?:\u2014 \S+ \S+\n)+)$/.exec(note);
  if (!parts)
    throw new NoNote("it isn’t a signed checkpoint: three lines, an empty one, and a line for each signature");
  const [, origin, size, rootText, lines] = parts;
  const root = base64ToBytes(rootText);
  if (root?.length !== ROOT_BYTES) throw new NoNote("its third line isn’t a root of 32 bytes in base64");
  const signatures = lines
    .trimEnd()
    .split("\n")
    .map((line) => {
      const [, name, text] = line.split(" ");
      const bytes = base64ToBytes(text);
      if (bytes?.length !== ID_BYTES + SIGNATURE_BYTES)
        throw new NoNote(`the signature of ${name} isn’t 68 bytes in base64`);
      return { name, id: hex(bytes.subarray(0, ID_BYTES)), signature: bytes.subarray(ID_BYTES) };
    });
  const text = note.slice(0, note.indexOf("\n\n") + 1);
  return { text, checkpoint: { origin, size: Number(size), root }, signatures };
}

/** Whether a note is signed by a key. */
export function isSignedBy({ text, signatures }: SignedNote, { name, id, publicKey }: NoteKey): boolean {
  const own = signatures.filter((one) => one.name === name && one.id === id);
  return own.some(({ signature }) => ed25519.verify(signature, utf8ToBytes(text), publicKey));
}

/** A key as a line, NAME+ID+KEY, without a line end. */
export function keyLine({ name, id, publicKey }: NoteKey): string {
  return `${name}+${id}+${base64(concatBytes(Uint8Array.of(ED25519), publicKey))}`;
}

/** @throws {NoNote} that says what is wrong */
export function readKeyLine(line: string): NoteKey {
  const [name, id, ...rest] = line.trim().split("+");
  const bytes = base64ToBytes(rest.join("+"));
  if (!name || !id || !isHex(id, ID_BYTES) || bytes?.length !== 1 + KEY_BYTES || bytes[0] !== ED25519)
    throw new NoNote("a key is written NAME+ID+KEY, the id as eight hex digits and the key in base64");
  const key = { name, id, publicKey: bytes.subarray(1) };
  if (keyId(name, key.publicKey) !== id) throw new NoNote(`the id ${id} isn’t that of this key and name`);
  return key;
}
