import { z } from "zod";

/** RFC 5321, section 4.5.3.1: so many octets in the part before the @, and in a whole path without its brackets. */
const MOST_LOCAL = 64;
const MOST_WHOLE = 254;

/** RFC 5322's atoms, with letters of every script (RFC 6531); dots between them, and no quotes, comments or controls. */
const ATOM = "[\\p{L}\\p{M}\\p{N}!#$%&'*+/=?^_`{|}~-]+";
const LOCAL = new RegExp(`^${ATOM}(?:\\.${ATOM})*$`, "u");
/** Labels of letters and digits with hyphens inside; the full stops are those that IDNA takes for one (RFC 3490, 3.1). */
const LABEL = String.raw`[\p{L}\p{M}\p{N}](?:[\p{L}\p{M}\p{N}_-]*[\p{L}\p{M}\p{N}])?`;
const DOMAIN = new RegExp(`^${LABEL}(?:[.。．｡]${LABEL})*$`, "u");
/** In UTF-8. */
function octets(text: string): number {
  let sum = 0;
  for (const sign of text) {
    const code = sign.codePointAt(0)!;
    sum += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x1_0000 ? 3 : 4;
  }
  return sum;
}

/**
 * Whether a text is one e-mail address and nothing else, so that whoever reads it, we or a mail server, takes the same
 * part of it for the domain: `a@evil.example(.home.example` is none.
 */
export function isMailAddress(text: string): boolean {
  const at = text.lastIndexOf("@");
  if (at < 1 || octets(text) > MOST_WHOLE) return false;
  const local = text.slice(0, at);
  return octets(local) <= MOST_LOCAL && LOCAL.test(local) && DOMAIN.test(text.slice(at + 1));
}

/** An e-mail address from outside. */
export const mailAddress = z
  .string()
  .trim()
  .refine(isMailAddress, { error: "must be an e-mail address such as ada@quay.example" });
