import { createCipheriv, createDecipheriv, createHash, hkdfSync, randomBytes } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Settings } from "./settings";

const KEY_BYTES = 32;
/** Stands before what is sealed by a key from HKDF; what has nothing before it was sealed by the older key. */
const BY_HKDF = "h.";

/** The keys of one application, all from LATCH_SECRET or from a key file, made at first start and readable by its owner only. */
export class Secrets {
  private readonly atRest: Buffer;

  constructor(private readonly settings: Pick<Settings, "secret" | "data">) {
    this.atRest = this.keyFor("at rest");
  }

  /** A key of 32 bytes for one purpose, by HKDF (RFC 5869) with SHA-256. */
  keyFor(purpose: string): Buffer {
    return Buffer.from(hkdfSync("sha256", this.secret(), "", purpose, KEY_BYTES));
  }

  /** Seals a text with AES-256-GCM: nonce, tag and ciphertext in one base64 string. */
  seal(text: string): string {
    const nonce = randomBytes(12);
    const cipher = createCipheriv("aes-256-gcm", this.atRest, nonce);
    const body = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
    return BY_HKDF + Buffer.concat([nonce, cipher.getAuthTag(), body]).toString("base64");
  }

  /** @throws {Error} if the text was not sealed with this key, or has been changed since */
  unseal(sealed: string): string {
    const isByHkdf = sealed.startsWith(BY_HKDF);
    const bytes = Buffer.from(isByHkdf ? sealed.slice(BY_HKDF.length) : sealed, "base64");
    const key = isByHkdf ? this.atRest : this.olderKey();
    const decipher = createDecipheriv("aes-256-gcm", key, bytes.subarray(0, 12), { authTagLength: 16 });
    decipher.setAuthTag(bytes.subarray(12, 28));
    return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString("utf8");
  }

  private olderKey(): Buffer {
    return createHash("sha256").update(`at rest\u0000${this.secret()}`).digest();
  }

  private secret(): string {
    const { secret, data } = this.settings;
    if (secret) return secret;
    const file = join(data, "key");
    if (!existsSync(file)) writeFileSync(file, randomBytes(KEY_BYTES).toString("base64"), { mode: 0o600 });
    return readFileSync(file, "utf8");
  }
}
