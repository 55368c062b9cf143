import { execFileSync } from "node:child_process";
import { createPrivateKey, createPublicKey, generateKeyPairSync, sign } from "node:crypto";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { base64, base64ToBytes, hex, hexToBytes } from "./bytes";
import { checkpointText, isSignedBy, keyId, keyLine, NoNote, noteOf, readKeyLine, readNote } from "./checkpoint";

const NAME = "tight-latch/hall.example";
const { privateKey, publicKey } = generateKeyPairSync("ed25519");
const raw = new Uint8Array(Buffer.from(publicKey.export({ format: "jwk" }).x!, "base64url"));
const key = { name: NAME, id: keyId(NAME, raw), publicKey: raw };
const root = hexToBytes("5dc9da79a70659a9ad559cb701ded9a2ab9d823aad2f4960cfe370eff4604328");
const text = checkpointText({ origin: NAME, size: 8, root });
const signed = (given: string, name = NAME) => ({
  name,
  id: key.id,
  signature: sign(null, Buffer.from(given), privateKey),
});
const note = noteOf(text, [signed(text)]);

test("three lines are signed, and stand before an empty one and who signed them", () => {
  const lines = note.split("\n");
  expect(lines.slice(0, 4)).toEqual([NAME, "8", "XcnaeacGWamtVZy3Ad7ZoqudgjqtL0lgz+Nw7/RgQyg=", ""]);
  expect(lines[4]).toMatch(/^— tight-latch\/hall\.example [A-Za-z0-9+/]{91}=$/);
  expect(lines[5]).toBe("");
  const read = readNote(note);
  expect(read).toMatchObject({ text, checkpoint: { origin: NAME, size: 8, root } });
  expect(isSignedBy(read, key)).toBe(true);
});

/** RFC 8032, section 7.1, test 1: a public key, and its signature of nothing; the key that signs is given there too. */
test("the published example of Ed25519 is verified, and not for another text", () => {
  const publicOf = hexToBytes("d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a");
  const signature = hexToBytes(
    "e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39701cf9b46bd25bf5f0595bbe24655141438e7a100b",
  );
  const one = { name: "a", id: keyId("a", publicOf), publicKey: publicOf };
  const signatures = [{ ...one, signature }];
  const checkpoint = { origin: "a", size: 0, root };
  expect(isSignedBy({ text: "", checkpoint, signatures }, one)).toBe(true);
  expect(isSignedBy({ text: "x", checkpoint, signatures }, one)).toBe(false);
});

/** The example key of a published signed-note format (golang.org/x/mod/sumdb/note): its id is that of its name and bytes; from memory. */
test("a published key line is read, with the id that is written in it", () => {
  const line = "PeterNeumann+c74f20a3+ARpc2QcUPDhMQegwxbzhKqiBfsVkmqq/LDE4izWy10TW";
  const read = readKeyLine(line);
  expect([read.name, read.id, keyLine(read)]).toEqual(["PeterNeumann", "c74f20a3", line]);
});

/** The signed example of the same format; from memory. Its text isn't a checkpoint. */
test("the published signed text is verified by its key", () => {
  const published =
    "If you think cryptography is the answer to your problem,\nthen you don't know what your problem is.\n";
  const bytes = base64ToBytes(
    "x08go/ZJkuBS9UG/SffcvIAQxVBtiFupLLr8pAcElZInNIuGUgYN1FFYC2pZSNXgKvqfqdngotpRZb6KE6RyyBwJnAM=",
  )!;
  const one = readKeyLine("PeterNeumann+c74f20a3+ARpc2QcUPDhMQegwxbzhKqiBfsVkmqq/LDE4izWy10TW");
  const signatures = [{ name: one.name, id: hex(bytes.subarray(0, 4)), signature: bytes.subarray(4) }];
  expect(isSignedBy({ text: published, checkpoint: { origin: "", size: 0, root }, signatures }, one)).toBe(true);
});

test("openssl verifies what is signed here", () => {
  const folder = mkdtempSync(join(tmpdir(), "latch-note-"));
  const path = (name: string) => join(folder, name);
  writeFileSync(path("key.pem"), publicKey.export({ type: "spki", format: "pem" }));
  writeFileSync(path("text"), text);
  writeFileSync(path("signature"), readNote(note).signatures[0].signature);
  const verify = ["pkeyutl", "-verify", "-pubin", "-inkey", path("key.pem"), "-rawin", "-in", path("text")];
  expect(`${execFileSync("openssl", [...verify, "-sigfile", path("signature")])}`).toContain("Signature Verified");
});

test.each([
  ["another name", () => isSignedBy(readNote(note), { ...key, name: "tight-latch/other.example" })],
  ["another key of the same id", () => isSignedBy(readNote(note), { ...key, publicKey: otherKey() })],
  ["another size", () => isSignedBy(readNote(note.replace("\n8\n", "\n9\n")), key)],
  ["another origin", () => isSignedBy(readNote(note.replace(NAME, "tight-latch/hall.exampl")), key)],
])("%s isn't signed", (_, isSigned) => expect(isSigned()).toBe(false));

function otherKey(): Uint8Array {
  const pem = generateKeyPairSync("ed25519").privateKey.export({ type: "pkcs8", format: "pem" });
  return Buffer.from(createPublicKey(createPrivateKey(pem)).export({ format: "jwk" }).x!, "base64url");
}

test.each([
  ["nothing", ""],
  ["no signature", `${text}\n`],
  ["four lines", note.replace("\n\n", "\nmore\n\n")],
  ["a size with a nought before it", note.replace("\n8\n", "\n08\n")],
  ["a root that is too short", note.replace("XcnaeacGWamt", "XcnaeacG")],
  ["other line ends", note.replaceAll("\n", "\r\n")],
  ["a signature that is too short", note.slice(0, -9) + "\n"],
  ["words after it", `${note}more\n`],
])("what has %s is no note", (_, given) => expect(() => readNote(given)).toThrow(NoNote));

test.each([
  ["no parts", "latch"],
  ["another's id", keyLine({ ...key, id: "00000000" })],
  ["another kind of key", `${NAME}+${key.id}+${base64(Uint8Array.of(2, ...raw))}`],
  ["too few bytes", `${NAME}+${key.id}+${base64(raw)}`],
])("what has %s is no key", (_, line) => expect(() => readKeyLine(line)).toThrow(NoNote));

test("base64 and hex are those of Node, and only what they write is read", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 80 }), (bytes) => {
      const text = Buffer.from(bytes).toString("base64");
      expect([base64(bytes), base64ToBytes(text)]).toEqual([text, bytes]);
      expect([hex(bytes), hexToBytes(hex(bytes))]).toEqual([Buffer.from(bytes).toString("hex"), bytes]);
    }),
  );
  expect(["AB==", "A", "AA==\n", "A A=", "AAA-"].map(base64ToBytes)).toEqual([null, null, null, null, null]);
});
