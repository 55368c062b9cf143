import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { ROLES } from "../estate/records";
import { countWords } from "../text/words";
import { seconds, type Seconds } from "../time/instant";
import { type Change, isLoosening, type ShareChange } from "./change";

/** By action: how many intents change nothing, because it is so already or would become looser. */
export type LeftOut = Record<string, number>;

/** Whether a share is already as tight as a change would make it, so that the change leaves it alone. */
export function holdsAlready(share: Share, change: ShareChange, t: Seconds): boolean {
  if (share.revoked <= t && !isLoosening(change)) return true;
  switch (change.action) {
    case "set-expiry":
      return share.ends <= seconds(change.expiresAt) && !change.later && !change.reopen;
    case "order-revoke":
      return share.ends <= seconds(change.on) && !change.later;
    case "set-password":
      return share.hasPassword && !change.replace;
    case "block-download":
      return !share.download && share.role !== "deposit";
    case "set-role":
      return share.role !== "deposit" && ROLES.indexOf(change.role) >= ROLES.indexOf(share.role);
    case "narrow":
      return share.isLink && share.reach === "named";
    default:
      return false;
  }
}

/** A change without the permission to loosen where it isn't needed: such a permission has to be confirmed separately. */
export function withoutIdleLeave(estate: Estate, change: Change, t: Seconds): Change {
  if (change.action === "set-password") {
    const { replace, ...rest } = change;
    return replace && estate.share(change.shareId)?.hasPassword ? { ...rest, replace } : rest;
  }
  if (change.action !== "set-expiry" && change.action !== "order-revoke") return change;
  const ends = estate.share(change.shareId)?.ends;
  if (change.action === "order-revoke") {
    const { later, ...rest } = change;
    return later && ends !== undefined && ends <= seconds(change.on) ? { ...rest, later } : rest;
  }
  const { reopen, later, ...rest } = change;
  if (ends === undefined || ends > seconds(change.expiresAt)) return rest;
  return ends <= t ? { ...rest, ...(reopen && { reopen }) } : { ...rest, ...(later && { later }) };
}

const WORDS: Record<string, [one: string, many: string]> = {
  revoke: ["share has already ended", "shares have already ended"],
  "set-expiry": ["share already ends sooner or has ended", "shares already end sooner or have ended"],
  "order-revoke": ["share already ends sooner or has ended", "shares already end sooner or have ended"],
  "set-password": ["share already has a password or has ended", "shares already have a password or have ended"],
  "block-download": ["share already blocks downloads or has ended", "shares already block downloads or have ended"],
  "set-role": ["share already gives no more or has ended", "shares already give no more or have ended"],
  narrow: ["link is already for named people or has ended", "links are already for named people or have ended"],
};
const NOTHING_LEFT: [string, string] = ["request had nothing left to do", "requests had nothing left to do"];

/** What was left out, in a sentence; null where nothing was. */
export function leftOutWords(left: LeftOut): string | null {
  const parts = Object.entries(left).map(([action, count]) => countWords(count, ...(WORDS[action] ?? NOTHING_LEFT)));
  return parts.length === 0 ? null : `Left as they are: ${parts.join(", ")}.`;
}
