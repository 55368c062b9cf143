import { normaliseAddress } from "../estate/address";
import type { ShareRecord } from "../estate/records";
import { lastDayWords } from "../text/words";
import { seconds } from "../time/instant";

/** What of a share somebody decides by, in words by name. Its use goes on, and changes no decision. */
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
 * In what a share is otherwise than it was when somebody decided about it; null where it is the same in all that one
 * decides by.
 */
export function differenceWords(before: ShareRecord, now: ShareRecord): string | null {
  const [then, today] = [sides(before), sides(now)];
  const names = Object.keys({ ...then, ...today }).filter((name) => then[name] !== today[name]);
  return names.length === 0 ? null : names.map((name) => `${name} was ${then[name]}, is ${today[name]}`).join("; ");
}
