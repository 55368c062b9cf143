import type { Held } from "../access/history";
import type { ShareRecord } from "../estate/records";
import { NEVER, seconds, type Seconds } from "../time/instant";

/** A period in which a share was open by its own record, and how. */
export interface OpenTime {
  record: ShareRecord;
  from: Seconds;
  /** When it was no longer open; NEVER if it still was at the end of the span. */
  to: Seconds;
}

/**
 * When a share was open within a span, and how, in the order of time. Whether its item was in the bin meanwhile, or the
 * folders above it, a share's own record doesn't say.
 * @param held all that its record has been, in the order of time
 * @param from the span's first instant, and `to` its last
 */
export function openTimes(held: readonly Held[], from: Seconds, to: Seconds): OpenTime[] {
  const versions = held as readonly (Held & { record: ShareRecord })[];
  return versions.flatMap((version): OpenTime[] => {
    const { record } = version;
    const isUsedUp = record.type === "link" && record.maxUses !== null && record.uses >= record.maxUses;
    const begins = Math.max(from, version.from, beganAt(record));
    const ends = Math.min(version.to, endOf(record.expiresAt), endOf(record.revokedAt));
    if (isUsedUp || begins >= ends || begins > to) return [];
    return [{ record, from: begins, to: ends > to ? NEVER : ends }];
  });
}

function beganAt(record: ShareRecord): Seconds {
  if (record.type === "grant") return seconds(record.grantedAt);
  return Math.max(seconds(record.createdAt), record.opensAt ? seconds(record.opensAt) : 0);
}

const endOf = (text: string | null | undefined) => (text ? seconds(text) : NEVER);

/** Adjacent periods with the same content are joined. @param sameness the content of a record */
export function joined(times: readonly OpenTime[], sameness: (record: ShareRecord) => string): OpenTime[] {
  const told: OpenTime[] = [];
  for (const time of times) {
    const last = told.at(-1);
    if (last && last.to === time.from && sameness(last.record) === sameness(time.record)) last.to = time.to;
    else told.push({ ...time });
  }
  return told;
}
