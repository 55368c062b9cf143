import { createCipheriv, createDecipheriv, createHash, hkdfSync, randomBytes } from "node:crypto";
import { type Key, KeyRing } from "./keyRing";
import type { Settings } from "./settings";

const KEY_BYTES = 32;
/** Stands before what is sealed, and the key's id after it. */
const SEALED = "k.";
/** What was sealed before keys had ids: by a key from HKDF, or, with nothing before it, by an older one. */
const BY_HKDF = "h.";

/** What an application seals and signs with: one key for each purpose, from the newest of its secrets. */
export class Secrets {
  readonly ring: KeyRing;

  constructor(settings: Pick<Settings, "secret" | "olderSecret" | "data">) {
    this.ring = new KeyRing(settings);
  }

  /** A key of 32 bytes for one purpose, by HKDF (RFC 5869) with SHA-256. */
  keyFor(purpose: string, { secret }: Key = this.ring.newest): Buffer {
    return Buffer.from(hkdfSync("sha256", secret, "", purpose, KEY_BYTES));
  }

  /** Seals a text with AES-256-GCM: the key's id, then nonce, tag and ciphertext in base64. */
  seal(text: string): string {
    const { newest } = this.ring;
    const nonce = randomBytes(12);
    const cipher = createCipheriv("aes-256-gcm", this.keyFor("at rest", newest), nonce);
    const body = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
    return `${SEALED}${newest.id}.${Buffer.concat([nonce, cipher.getAuthTag(), body]).toString("base64")}`;
  }

  /** @throws {Error} if the text was not sealed with one of the keys, or has been changed since */
  unseal(sealed: string): string {
    if (!sealed.startsWith(SEALED)) return this.unsealOlder(sealed);
    const [, id, body] = sealed.split(".");
    const key = this.ring.find(id);
    if (!key) throw new Error(`The key ${id} that a secret was encrypted with is missing. See docs/settings.md.`);
    return opened(body, this.keyFor("at rest", key));
  }

  /** The same secret, sealed by the newest key; null where it is already. */
  resealed(sealed: string): string | null {
    return sealed.startsWith(`${SEALED}${this.ring.newest.id}.`) ? null : this.seal(this.unseal(sealed));
  }

  /** It doesn't say by which key. */
  private unsealOlder(sealed: string): string {
    const isByHkdf = sealed.startsWith(BY_HKDF);
    const body = isByHkdf ? sealed.slice(BY_HKDF.length) : sealed;
    const keys = this.ring.keys().map((key) => (isByHkdf ? this.keyFor("at rest", key) : olderKey(key)));
    const key = keys.find((one) => opens(body, one));
    if (!key) throw new Error("None of the keys can decrypt a secret. See docs/settings.md.");
    return opened(body, key);
  }
}

function olderKey({ secret }: Key): Buffer {
  return createHash("sha256").update(`at rest\u0000${secret}`).digest();
}

function opens(body: string, key: Buffer): boolean {
  try {
    opened(body, key);
    return true;
  } catch {
    return false;
  }
}

function opened(body: string, key: Buffer): string {
  const bytes = Buffer.from(body, "base64");
  const decipher = createDecipheriv("aes-256-gcm", key, bytes.subarray(0, 12), { authTagLength: 16 });
  decipher.setAuthTag(bytes.subarray(12, 28));
  return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString("utf8");
}
