import { z } from "zod";
import type { EventRecord, LinkRecord } from "../estate/records";
import { seconds, type Seconds } from "../time/instant";
import { disagreement } from "./bytes";
import { type Mark, MARKS } from "./marks";
import { canRun, hasDoubleEnding, hasHidden } from "./names";

const text = z.string().max(2_000).nullish().catch(null);
/** What a store may report about a file that was sent in; what can't be read is left out. */
const details = z.object({
  item: text,
  name: text,
  size: z.number().nonnegative().nullish().catch(null),
  sender: text,
  mediaType: text,
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/i)
    .nullish()
    .catch(null),
  firstBytes: z.base64().max(10_000).nullish().catch(null),
});

/** A file that came in, as its store tells. */
export interface Came {
  at: Seconds;
  name: string | null;
  size: number | null;
  /** The name that the sender gave, and their address, where that is known. */
  sender: string | null;
  address: string | null;
  /** The sender's network address. */
  from: string | null;
  mediaType: string | null;
  sha256: string | null;
  firstBytes: Uint8Array | null;
}

export function cameFrom({ at, actorEmail, ip, detail }: EventRecord): Came {
  const told = details.parse(detail ?? {});
  return {
    ...{ at: seconds(at), address: actorEmail || null, from: ip || null },
    ...{ name: told.name ?? null, size: told.size ?? null, sender: told.sender ?? null },
    ...{ mediaType: told.mediaType ?? null, sha256: told.sha256?.toLowerCase() ?? null },
    firstBytes: told.firstBytes ? Uint8Array.from(atob(told.firstBytes), (one) => one.charCodeAt(0)) : null,
  };
}

/**
 * Remarks on a file.
 * @param link as it was known when the file came; null where it wasn't
 * @param isAgain whether the same bytes came before
 */
export async function marksOf(came: Came, link: LinkRecord | null, isAgain: boolean): Promise<Mark[]> {
  const { name, mediaType, firstBytes, at } = came;
  const marks = new Set<Mark>();
  if (name !== null && hasDoubleEnding(name)) marks.add("double");
  if (canRun(name ?? "", mediaType)) marks.add("runs");
  if (name !== null && firstBytes && (await disagreement(name, firstBytes)) !== null) marks.add("disagrees");
  if (name !== null && hasHidden(name)) marks.add("hidden");
  if (link !== null && isClosedAt(link, at)) marks.add("closed");
  if (isAgain) marks.add("again");
  return MARKS.filter((mark) => marks.has(mark));
}

/** Whether a link took no files at an instant. */
export function isClosedAt({ opensAt, expiresAt, revokedAt }: LinkRecord, at: Seconds): boolean {
  const isBefore = opensAt !== null && at < seconds(opensAt);
  const isAfter = [expiresAt, revokedAt].some((end) => end != null && at >= seconds(end));
  return isBefore || isAfter;
}
