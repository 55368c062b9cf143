import { z } from "zod";
import { canonicalText } from "./chain";
import { sha256 as plainSha256, type Sha256 } from "./hashing";

/** Marks a field that can name somebody outside: it is kept beside the entry, where it can be left out. */
export function detail<T extends z.ZodType>(schema: T): T {
  IS_DETAIL.add(schema);
  return schema;
}
const IS_DETAIL = new WeakSet<z.ZodType>();

/** A body, and beside it what can name somebody outside: null where nothing in it can. */
export interface Parted {
  body: Record<string, unknown>;
  detail: { text: string; salt: Uint8Array } | null;
}

/** Whether a body itself holds what can name somebody outside, as all did before details were kept beside. */
export function namesOutright(schema: z.ZodObject, body: Record<string, unknown>): boolean {
  return Object.keys(body).some((field) => field in schema.shape && IS_DETAIL.has(schema.shape[field] as z.ZodType));
}

/** What a body that has a detail says of it, under this name. */
export const DETAIL = "detail";

/**
 * Parts what can name somebody outside from a body, which then has its hash instead.
 * @param salt 16 random bytes: without it, a name could be guessed from its hash
 */
export function parted(schema: z.ZodObject, body: Record<string, unknown>, salt: () => Uint8Array): Parted {
  const isDetail = (field: string) => field in schema.shape && IS_DETAIL.has(schema.shape[field] as z.ZodType);
  const fields = Object.entries(body).filter(([, value]) => value !== undefined);
  const beside = fields.filter(([field]) => isDetail(field));
  const plain = Object.fromEntries(fields.filter(([field]) => !isDetail(field)));
  if (beside.length === 0) return { body: plain, detail: null };
  const kept = { text: canonicalText(Object.fromEntries(beside)), salt: salt() };
  return { body: { ...plain, [DETAIL]: detailHash(kept) }, detail: kept };
}

/** SHA-256 over the salt and then the detail's canonical JSON; in hex. */
export function detailHash({ text, salt }: { text: string; salt: Uint8Array }, sha256: Sha256 = plainSha256): string {
  // A string's unit takes three bytes of UTF-8 at most.
  const bytes = new Uint8Array(salt.length + 3 * text.length);
  bytes.set(salt);
  const { written } = new TextEncoder().encodeInto(text, bytes.subarray(salt.length));
  return sha256.hex(bytes.subarray(0, salt.length + written));
}

/** A body as it was before it was parted; without its detail, where that isn't there any more. */
export function whole(body: unknown, detail: string | null): unknown {
  if (typeof body !== "object" || body === null || !(DETAIL in body)) return body;
  const { [DETAIL]: _, ...plain } = body as Record<string, unknown>;
  return detail === null ? plain : { ...(JSON.parse(detail) as object), ...plain };
}
