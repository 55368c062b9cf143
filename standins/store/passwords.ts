import { randomBytes, scryptSync, timingSafeEqual } from "node:crypto";

/** Salted scrypt; the cost is Node's default (N = 16,384), enough for a stand-in. */
export function hashPassword(password: string): string {
  const salt = randomBytes(16);
  return `${salt.toString("hex")}:${scryptSync(password, salt, 32).toString("hex")}`;
}

export function isPassword(given: string, hash: string): boolean {
  const [salt, expected] = hash.split(":").map((part) => Buffer.from(part, "hex"));
  return timingSafeEqual(scryptSync(given, salt, 32), expected);
}
