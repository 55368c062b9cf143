import { createCipheriv, createDecipheriv, createHash, randomBytes } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { settings } from "./settings";

/**
 * A key of 32 bytes for one purpose, from LATCH_SECRET or from a key file made at first start and
 * readable by its owner only.
 */
export function keyFor(purpose: string): Buffer {
  return createHash("sha256").update(`${purpose}\u0000${secret()}`).digest();
}

function secret(): string {
  const { secret, data } = settings();
  if (secret) return secret;
  const file = join(data, "key");
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString("base64"), { mode: 0o600 });
  return readFileSync(file, "utf8");
}

/** Seals a text with AES-256-GCM: nonce, tag and ciphertext in one base64 string. */
export function seal(text: string): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv("aes-256-gcm", keyFor("at rest"), nonce);
  const body = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), body]).toString("base64");
}

/** @throws {Error} if the text was not sealed with this key, or has been changed since */
export function unseal(sealed: string): string {
  const bytes = Buffer.from(sealed, "base64");
  const decipher = createDecipheriv("aes-256-gcm", keyFor("at rest"), bytes.subarray(0, 12));
  decipher.setAuthTag(bytes.subarray(12, 28));
  return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString("utf8");
}
