import { mkdtempSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { keyFor, seal, unseal } from "./secrets";

process.env.LATCH_DATA = mkdtempSync(join(tmpdir(), "latch-secrets-"));

test("what is sealed comes back, and never looks the same twice", () => {
  const sealed = seal("a store's key");
  expect(unseal(sealed)).toBe("a store's key");
  expect(seal("a store's key")).not.toBe(sealed);
});

test("a changed byte is refused", () => {
  const bytes = Buffer.from(seal("a store's key"), "base64");
  for (const at of [0, 15, bytes.length - 1]) {
    const changed = Buffer.from(bytes);
    changed[at] ^= 1;
    expect(() => unseal(changed.toString("base64"))).toThrow();
  }
});

test("the key file is its owner's alone, and each purpose has a key of its own", () => {
  keyFor("a");
  expect(statSync(join(process.env.LATCH_DATA!, "key")).mode & 0o777).toBe(0o600);
  expect(keyFor("a").equals(keyFor("b"))).toBe(false);
  expect(keyFor("a")).toHaveLength(32);
});
