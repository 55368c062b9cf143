import type { StoreRecord } from "../../core/estate/records";
import { TELLS_PASSWORDS } from "./stores";
import { createHmac, randomBytes, scryptSync, timingSafeEqual } from "node:crypto";

/** Salted scrypt; the cost is Node's default (N = 16,384), enough for a stand-in. */
export function hashPassword(password: string): string {
  const salt = randomBytes(16);
  return `${salt.toString("hex")}:${scryptSync(password, salt, 32).toString("hex")}`;
}

export function isPassword(given: string, hash: string): boolean {
  const [salt, expected] = hash.split(":").map((part) => Buffer.from(part, "hex"));
  return timingSafeEqual(scryptSync(given, salt, 32), expected);
}

const COMMON = new Set(["password", "letmein", "welcome", "changeme", "wrenmoor", "orchestra", "concert2026"]);

/** What a store that tells of its passwords says of one: never the password, nor what it could be found out from. */
export function passwordFacts(password: string) {
  return {
    passwordLength: password.length,
    passwordCommon: COMMON.has(password.toLowerCase()),
    passwordMark: createHmac("sha256", MARK_KEY).update(password).digest("hex").slice(0, 16),
  };
}
const MARK_KEY = "the stand-ins' own; a real store would make one that nobody else has";

export const NO_PASSWORD_FACTS = { passwordLength: null, passwordCommon: null, passwordMark: null };

/** What a store tells of a password: most tell nothing. */
export function factsToTell({ id }: StoreRecord, password: string) {
  return id === TELLS_PASSWORDS ? passwordFacts(password) : NO_PASSWORD_FACTS;
}
