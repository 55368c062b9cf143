import { normaliseAddress } from "../estate/address";
import type { ShareRecord } from "../estate/records";
import { lastDayWords } from "../text/words";
import { seconds } from "../time/instant";

/** What people decide about a share by, as named words. How it is used isn't part of it: that changes all the time. */
function sides(share: ShareRecord): Record<string, string> {
  const common = {
    item: share.itemId,
    role: share.role,
    download: share.download ? "possible" : "blocked",
    end: share.expiresAt === null ? "none" : lastDayWords(seconds(share.expiresAt)),
    state: share.revokedAt ? "revoked" : "in force",
  };
  if (share.type === "grant") return { ...common, for: share.toId };
  const recipients = share.recipients.map(({ email }) => normaliseAddress(email)).sort();
  return {
    ...common,
    reach: share.reach,
    start: share.opensAt === null ? "none" : share.opensAt,
    words: share.message ?? "the store’s own",
    password: share.password ? "set" : "none",
    for: recipients.join(", ") || "nobody by name",
  };
}

/**
 * How a share differs from what somebody decided about; null where nothing differs that people decide
 * by.
 */
export function differenceWords(before: ShareRecord, now: ShareRecord): string | null {
  const [then, today] = [sides(before), sides(now)];
  const names = Object.keys({ ...then, ...today }).filter((name) => then[name] !== today[name]);
  return names.length === 0 ? null : names.map((name) => `${name} was ${then[name]}, is ${today[name]}`).join("; ");
}
