import * as OTPAuth from "otpauth";
import { now } from "../parts/clock";

/** A code lasts ten minutes: one step of RFC 6238, and the one before it for a slow mail. */
const PERIOD_S = 600;

function generator(secret: string) {
  return new OTPAuth.TOTP({
    secret: OTPAuth.Secret.fromBase32(secret),
    digits: 6,
    period: PERIOD_S,
    algorithm: "SHA256",
  });
}

export function newSecret(): string {
  return new OTPAuth.Secret({ size: 32 }).base32;
}

/** The six digits for a secret at this moment, by RFC 6238. */
export function codeFor(secret: string): string {
  return generator(secret).generate({ timestamp: now().getTime() });
}

export function isCode(secret: string, given: string): boolean {
  return generator(secret).validate({ token: given.trim(), timestamp: now().getTime(), window: 1 }) !== null;
}
