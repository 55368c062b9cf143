import { sha256 as incremental } from "@noble/hashes/sha2.js";
import { concatBytes } from "@noble/hashes/utils.js";
import { countWords } from "../text/words";
import { base64, hex, hexToBytes, isHex } from "../ledger/bytes";
import { canonicalText, entryHash, entryText } from "../ledger/chain";
import {
  isSignedBy,
  keyLine,
  type NoteKey,
  NoNote,
  readKeyLine,
  readNote,
  type SignedNote,
} from "../ledger/checkpoint";
import { detailHash } from "../ledger/details";
import { sha256 } from "../ledger/hashing";
import { holdsConsistency, holdsInclusion, isSame, leafHash } from "../ledger/merkle";
import { checkpointSize, DETAILS_FILE, estateDay, isListed, type Manifest, manifestSchema, REQUIRED } from "./pack";

/** The files of a pack, however they are read. */
export interface PackFiles {
  /** As they stand in the ZIP. */
  paths: readonly string[];
  open(path: string): AsyncIterable<Uint8Array>;
}

/** The first thing in a pack that doesn't hold. */
export class PackFault extends Error {}

/** Things that the verifier has kept. */
export interface Kept {
  key?: NoteKey;
  against?: SignedNote;
}

/** An entry as a pack tells it. */
interface PackEntry {
  seq: number;
  previous: string;
  hash: string;
  leaf: Uint8Array;
  kind: string;
  body: Record<string, unknown>;
}

/**
 * Checks a pack, file by file, each read from its beginning to its end.
 * @returns a line in words for each thing that was checked
 * @throws {PackFault} at the first that doesn't hold
 */
export async function* verifyPack(files: PackFiles, kept: Kept = {}): AsyncGenerator<string> {
  const manifest = await checkManifest(files);
  yield `manifest.json lists ${manifest.files.length} files, and each of them is as it is listed.`;
  const keys = await readKeys(files);
  const notes = await readNotes(files, keys);
  yield `${notes.earlier.size + 1} checkpoints are signed by the keys in key.txt.`;
  const last = await checkEntries(files, notes.newest);
  yield `${last.count} entries follow each other, and each is in the checkpoint of ${notes.newest.checkpoint.size}.`;
  await checkPackMade(files, last.entry);
  yield `The last of them, entry ${last.entry.seq}, is that this pack was made.`;
  await checkConsistency(files, notes);
  yield "The ledger only grew from each earlier checkpoint.";
  const details = await checkDetails(files, manifest, last.details);
  yield manifest.pseudonyms
    ? "It uses pseudonyms for outsiders, and the entries’ details are left out."
    : `${details} details are those that the entries speak of.${leftOutWords(last.details.size)}`;
  yield compared(notes, keys[0], kept);
}

async function checkManifest(files: PackFiles): Promise<Manifest> {
  checkPaths(files.paths);
  const text = await textOf(files, "manifest.json");
  const manifest = parsed(manifestSchema, "manifest.json", text);
  if (canonicalText(manifest) !== text) fault("manifest.json", "isn’t canonical JSON (RFC 8785)");
  const listed = manifest.files.map(({ path }) => path);
  const present = files.paths.filter(isListed).sort();
  const missing = present.find((path) => !listed.includes(path)) ?? listed.find((path) => !present.includes(path));
  if (missing !== undefined) fault("manifest.json", `${missing} isn’t both in the pack and in the list`);
  if (listed.join("\n") !== present.join("\n")) fault("manifest.json", "its files aren’t sorted by path");
  for (const path of [manifest.from, manifest.to].map((day) => `estate/${day}.jsonl`))
    if (!files.paths.includes(path)) fault(path, "isn’t in the pack");
  for (const { path, bytes, sha256: wanted } of manifest.files) {
    const found = await digestOf(files, path);
    if (found.bytes !== bytes) fault(path, `has ${found.bytes} bytes, and ${bytes} are listed`);
    if (found.sha256 !== wanted) fault(path, "isn’t what is listed: its hash is another");
  }
  return manifest;
}

function checkPaths(paths: readonly string[]) {
  if (new Set(paths).size !== paths.length) fault("the pack", "has two files of one path");
  for (const path of paths) {
    const isKnown = REQUIRED.includes(path) || path === DETAILS_FILE || estateDay(path) !== null;
    if (!isKnown && checkpointSize(path) === null) fault(path, "is no file that a pack has");
  }
  const missing = REQUIRED.find((path) => !paths.includes(path));
  if (missing !== undefined) fault(missing, "isn’t in the pack");
}

async function readKeys(files: PackFiles): Promise<NoteKey[]> {
  const lines = await linesIn(files, "key.txt");
  if (lines.length === 0) fault("key.txt", "has no key");
  const keys = lines.map((line) => noting("key.txt", () => readKeyLine(line)));
  if ((await textOf(files, "ledger/key.pem")) !== pemOf(keys[0]))
    fault("ledger/key.pem", "isn’t the newest key of key.txt");
  return keys;
}

/** A public key as openssl reads it (RFC 8410). */
export function pemOf({ publicKey }: NoteKey): string {
  const der = concatBytes(hexToBytes("302a300506032b6570032100"), publicKey);
  return `-----BEGIN PUBLIC KEY-----\n${base64(der)}\n-----END PUBLIC KEY-----\n`;
}

interface Notes {
  newest: SignedNote;
  /** By their size. */
  earlier: Map<number, SignedNote>;
}

async function readNotes(files: PackFiles, keys: readonly NoteKey[]): Promise<Notes> {
  const read = async (path: string) => {
    const text = await textOf(files, path);
    return noting(path, () => readNote(text));
  };
  const newest = await read("ledger/checkpoint.txt");
  if (!isSignedBy(newest, keys[0])) fault("ledger/checkpoint.txt", "isn’t signed by the newest key of key.txt");
  const earlier = new Map<number, SignedNote>();
  for (const path of files.paths) {
    const size = checkpointSize(path);
    if (size === null) continue;
    const note = await read(path);
    if (note.checkpoint.size !== size) fault(path, `is the checkpoint of ${note.checkpoint.size} entries`);
    if (note.checkpoint.origin !== newest.checkpoint.origin) fault(path, "is of another ledger");
    if (!keys.some((key) => isSignedBy(note, key))) fault(path, "isn’t signed by a key of key.txt");
    earlier.set(size, note);
  }
  return { newest, earlier };
}

async function checkEntries(files: PackFiles, { checkpoint: { size, root } }: SignedNote) {
  const proofs = linesOf(files, "ledger/proofs.jsonl")[Symbol.asyncIterator]();
  const details = new Map<number, string>();
  let entry: PackEntry | undefined;
  let count = 0;
  for await (const line of linesOf(files, "ledger/entries.jsonl")) {
    const next = entryIn(line);
    const at = `entry ${next.seq}`;
    if (entry && next.seq !== entry.seq + 1) fault(at, `follows entry ${entry.seq}: between them some are missing`);
    if (entry && next.previous !== entry.hash) fault(at, "does not follow the entry before it");
    const proof = await proofIn(proofs, at);
    if (proof.seq !== next.seq - 1 || !isSame(proof.leaf, next.leaf)) fault(at, "has the proof of another");
    if (!holdsInclusion(sha256, { leaf: next.leaf, index: proof.seq, size, path: proof.path, root }))
      fault(at, "isn’t in the checkpoint: its proof leads to another root");
    if (typeof next.body.detail === "string") details.set(next.seq, next.body.detail);
    entry = next;
    count++;
  }
  if (!entry) fault("ledger/entries.jsonl", "has no entry");
  if (!(await proofs.next()).done) fault("ledger/proofs.jsonl", "has more proofs than there are entries");
  return { entry, count, details };
}

function entryIn(line: string): PackEntry {
  const { seq, at, actor, kind, body, previous, hash } = jsonIn("ledger/entries.jsonl", line);
  const entry = { seq, at, actor, kind, body: canonicalText(body), previous, hash } as Parameters<typeof entryText>[0];
  if (entryText(entry) !== line)
    fault(`entry ${seq}`, "isn’t canonical JSON (RFC 8785), or has more than an entry has");
  if (entryHash(entry) !== hash) fault(`entry ${seq}`, "isn’t what was written: its hash is another");
  const leaf = leafHash(sha256, line);
  return { seq: entry.seq, previous: entry.previous, hash: entry.hash, kind: entry.kind, leaf, body: asRecord(body) };
}

function asRecord(body: unknown): Record<string, unknown> {
  return typeof body === "object" && body !== null ? (body as Record<string, unknown>) : {};
}

async function proofIn(proofs: AsyncIterator<string>, at: string) {
  const { value, done } = await proofs.next();
  if (done) fault(at, "has no proof");
  const { seq, leaf, path } = jsonIn("ledger/proofs.jsonl", value);
  return { seq: Number(seq), leaf: bytesIn(leaf, at), path: hashesIn(path, at) };
}

function hashesIn(value: unknown, at: string): Uint8Array[] {
  if (!Array.isArray(value)) fault(at, "has a proof that is no list of hashes");
  return value.map((one) => bytesIn(one, at));
}

function bytesIn(value: unknown, at: string): Uint8Array {
  if (typeof value !== "string" || !isHex(value, 32)) fault(at, "has a proof with something that is no hash");
  return hexToBytes(value);
}

async function checkPackMade(files: PackFiles, { kind, body, seq }: PackEntry) {
  if (kind !== "pack-made") fault(`entry ${seq}`, "is the last one, and isn’t that a pack was made");
  if (body.manifest !== (await digestOf(files, "manifest.json")).sha256)
    fault(`entry ${seq}`, "is about another pack: the hash of manifest.json is another");
}

async function checkConsistency(files: PackFiles, { newest, earlier }: Notes) {
  const waiting = new Map(earlier);
  const { size: second, root: secondRoot } = newest.checkpoint;
  for await (const line of linesOf(files, "ledger/consistency.jsonl")) {
    const { from, to, proof } = jsonIn("ledger/consistency.jsonl", line);
    const at = `the checkpoint of ${from} entries`;
    const note = waiting.get(Number(from));
    if (!note || to !== second)
      fault("ledger/consistency.jsonl", `has a line from ${from} to ${to} that nothing asks for`);
    const grown = { first: Number(from), second, firstRoot: note.checkpoint.root, secondRoot };
    if (!holdsConsistency(sha256, grown, hashesIn(proof, at)))
      fault(at, "isn’t a beginning of the ledger: what is proved leads to other roots");
    waiting.delete(Number(from));
  }
  for (const size of waiting.keys())
    fault(`the checkpoint of ${size} entries`, "has no proof that the ledger grew from it");
}

async function checkDetails(files: PackFiles, { pseudonyms }: Manifest, wanted: Map<number, string>): Promise<number> {
  if (pseudonyms === files.paths.includes(DETAILS_FILE))
    fault(DETAILS_FILE, pseudonyms ? "names outsiders, who are pseudonyms in this pack" : "isn’t in the pack");
  if (pseudonyms) return 0;
  let count = 0;
  for await (const line of linesOf(files, DETAILS_FILE)) {
    const { seq, salt, detail } = jsonIn(DETAILS_FILE, line);
    const at = `the detail of entry ${seq}`;
    if (typeof salt !== "string" || !isHex(salt, 16)) fault(at, "has no salt of 16 bytes");
    const found = detailHash({ text: canonicalText(detail), salt: hexToBytes(salt) });
    if (wanted.get(Number(seq)) !== found) fault(at, "isn’t what the entry speaks of");
    wanted.delete(Number(seq));
    count++;
  }
  return count;
}

/** A detail may have been erased, and only its hash stays: that it isn't in the pack is said all the same. */
function leftOutWords(count: number): string {
  return count === 0
    ? ""
    : ` ${countWords(count, "other detail")} that entries speak of ${count === 1 ? "isn’t" : "aren’t"} in the pack.`;
}

/** What the pack was compared with that isn't of the pack: nothing in it can vouch for its own key. */
function compared({ newest, earlier }: Notes, key: NoteKey, kept: Kept): string {
  if (kept.key && !isSignedBy(newest, kept.key))
    fault("ledger/checkpoint.txt", `isn’t signed by the key ${kept.key.id} that you hold`);
  if (kept.against) {
    const { size, root } = kept.against.checkpoint;
    const own = size === newest.checkpoint.size ? newest : earlier.get(size);
    if (!own) fault("the pack", `has no checkpoint of ${size} entries to compare with the one that you hold`);
    if (!isSame(own.checkpoint.root, root)) fault(`the checkpoint of ${size} entries`, "is not the one that you hold");
  }
  if (kept.key || kept.against) return "It agrees with what you hold.";
  return `It is consistent in itself; compare the key ${keyLine(key)} with one you hold.`;
}

function fault(where: string, why: string): never {
  throw new PackFault(`${where}: ${why}`);
}

function noting<T>(path: string, read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof NoNote) fault(path, error.message);
    throw error;
  }
}

function parsed<T>(
  schema: { safeParse(value: unknown): { success: boolean; data?: T } },
  path: string,
  text: string,
): T {
  const result = schema.safeParse(jsonIn(path, text));
  if (!result.success) fault(path, "isn’t what it should be");
  return result.data!;
}

function jsonIn(path: string, text: string): Record<string, unknown> {
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value === "object" && value !== null) return value as Record<string, unknown>;
  } catch {
    // Reported below as not JSON, whatever it is.
  }
  fault(path, "has a line that is no JSON object");
}

async function digestOf(files: PackFiles, path: string): Promise<{ bytes: number; sha256: string }> {
  const hash = incremental.create();
  let bytes = 0;
  for await (const piece of files.open(path)) {
    hash.update(piece);
    bytes += piece.length;
  }
  return { bytes, sha256: hex(hash.digest()) };
}

async function textOf(files: PackFiles, path: string): Promise<string> {
  const pieces: Uint8Array[] = [];
  for await (const piece of files.open(path)) pieces.push(piece);
  return decoded(path, concatBytes(...pieces));
}

async function linesIn(files: PackFiles, path: string): Promise<string[]> {
  const lines: string[] = [];
  for await (const line of linesOf(files, path)) lines.push(line);
  return lines;
}

const LF = 10;

/** The lines of a file, each ended by LF and nothing else. */
async function* linesOf(files: PackFiles, path: string): AsyncGenerator<string> {
  let rest: Uint8Array = new Uint8Array();
  for await (const piece of files.open(path)) {
    let from = 0;
    for (let end = piece.indexOf(LF); end >= 0; end = piece.indexOf(LF, from)) {
      yield decoded(path, concatBytes(rest, piece.subarray(from, end)));
      rest = new Uint8Array();
      from = end + 1;
    }
    rest = concatBytes(rest, piece.subarray(from));
  }
  if (rest.length > 0) fault(path, "doesn’t end with a line end");
}

function decoded(path: string, bytes: Uint8Array): string {
  try {
    return new TextDecoder("utf-8", { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    fault(path, "isn’t UTF-8");
  }
}
