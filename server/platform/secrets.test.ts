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
  const [head, id, body] = secrets.seal("a store's key").split(".");
  const bytes = Buffer.from(body, "base64");
  for (const at of [0, 15, bytes.length - 1]) {
    const changed = Buffer.from(bytes);
    changed[at] ^= 1;
    expect(() => secrets.unseal([head, id, changed.toString("base64")].join("."))).toThrow();
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

test("what was sealed before keys had ids still comes back, by whichever key it was", () => {
  const secret = "a secret of at least thirty-two characters";
  const older = createHash("sha256").update(`at rest\u0000${secret}`).digest();
  const byHkdf = new Secrets({ data, secret }).keyFor("at rest");
  for (const [head, key] of [
    ["", older],
    ["h.", byHkdf],
  ] as const) {
    const nonce = Buffer.alloc(12, 1);
    const cipher = createCipheriv("aes-256-gcm", key, nonce);
    const body = Buffer.concat([cipher.update("a store's key", "utf8"), cipher.final()]);
    const sealed = head + Buffer.concat([nonce, cipher.getAuthTag(), body]).toString("base64");
    expect(new Secrets({ data, secret }).unseal(sealed)).toBe("a store's key");
    const after = new Secrets({ data, secret: "another secret of thirty-two characters", olderSecret: secret });
    expect(after.unseal(sealed)).toBe("a store's key");
    expect(() => new Secrets({ data, secret: "x".repeat(32) }).unseal(sealed)).toThrow("None of the keys");
  }
});

test("what is sealed says by which key; a new one in the file is taken by whoever has it open, the old still read", () => {
  const folder = mkdtempSync(join(tmpdir(), "latch-secrets-"));
  const [running, command] = [
    new Secrets({ data: folder, secret: undefined }),
    new Secrets({ data: folder, secret: undefined }),
  ];
  const before = running.seal("a store's key");
  const { id } = running.ring.newest;
  expect(before.split(".")[1]).toBe(id);
  command.ring.add();
  expect(running.ring.newest.id).not.toBe(id);
  expect(running.unseal(before)).toBe("a store's key");
  const after = running.resealed(before)!;
  expect([after.split(".")[1], running.resealed(after)]).toEqual([running.ring.newest.id, null]);
  expect(statSync(join(folder, "key")).mode & 0o777).toBe(0o600);
  expect(command.ring.forgetOlder()).toBe(1);
  expect(running.unseal(after)).toBe("a store's key");
  expect(() => running.unseal(before)).toThrow(`The key ${id} that a secret was encrypted with is missing.`);
});

test("a house that goes over from the key file to a secret of its own can still read what it had", () => {
  const folder = mkdtempSync(join(tmpdir(), "latch-secrets-"));
  const before = new Secrets({ data: folder, secret: undefined }).seal("a store's key");
  const after = new Secrets({ data: folder, secret: "x".repeat(32) });
  expect([after.unseal(before), after.ring.isSetOutside]).toEqual(["a store's key", true]);
});
