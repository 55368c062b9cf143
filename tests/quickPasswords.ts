import { createHash, randomBytes } from "node:crypto";

/**
 * Stands in for the sign-in package's hashes, which are slow on purpose: tests that count hundreds of tries need not
 * wait for them. The browser's tests sign in by the real ones.
 */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16).toString("hex");
  return `${salt}:${hashed(salt, password)}`;
}

export async function verifyPassword(hash: string, password: string): Promise<boolean> {
  const [salt, key] = hash.split(":");
  return key === hashed(salt, password);
}

const hashed = (salt: string, password: string) =>
  createHash("sha256").update(salt).update(password.normalize("NFKC")).digest("hex");
