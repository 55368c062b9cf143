import { createCipheriv, createHash } from "node:crypto";
import { mkdtempSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Secrets } from "./secrets";

const data = mkdtempSync(join(tmpdir(), "latch-secrets-"));
const secrets = new Secrets({ data, secret: undefined });

test("what is sealed comes back, and never looks the same twice", () => {
  const sealed = secrets.seal("a store's key");
  expect(secrets.unseal(sealed)).toBe("a store's key");
  expect(secrets.seal("a store's key")).not.toBe(sealed);
});

test("a changed byte is refused", () => {
  const bytes = Buffer.from(secrets.seal("a store's key").slice(2), "base64");
  for (const at of [0, 15, bytes.length - 1]) {
    const changed = Buffer.from(bytes);
    changed[at] ^= 1;
    expect(() => secrets.unseal(`h.${changed.toString("base64")}`)).toThrow();
  }
});

test("the key file is its owner's alone, and each purpose has a key of its own", () => {
  secrets.keyFor("a");
  expect(statSync(join(data, "key")).mode & 0o777).toBe(0o600);
  expect(secrets.keyFor("a").equals(secrets.keyFor("b"))).toBe(false);
  expect(secrets.keyFor("a")).toHaveLength(32);
});

test("a key is HKDF's, by the vectors of RFC 5869", () => {
  // Appendix A.1 has a salt, which we have none of; A.3 has neither salt nor info, as our keys for "" have.
  const key = new Secrets({ data, secret: Buffer.alloc(22, 0x0b).toString("latin1") }).keyFor("");
  expect(key.toString("hex")).toBe("8da4e775a563c18f715f802a063c5a31b8a11f5c5ee1879ec3454e5f3c738d2d");
});

test("what was sealed by the key of older versions still comes back", () => {
  const secret = "a secret of at least thirty-two characters";
  const older = createHash("sha256").update(`at rest\u0000${secret}`).digest();
  const nonce = Buffer.alloc(12, 1);
  const cipher = createCipheriv("aes-256-gcm", older, nonce);
  const body = Buffer.concat([cipher.update("a store's key", "utf8"), cipher.final()]);
  const sealed = Buffer.concat([nonce, cipher.getAuthTag(), body]).toString("base64");
  expect(new Secrets({ data, secret }).unseal(sealed)).toBe("a store's key");
});
