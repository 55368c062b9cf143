import { normaliseAddress } from "../estate/address";
import { type ItemRecord, ROLES, type ShareRecord } from "../estate/records";
import { seconds } from "../time/instant";
import type { Action, Change, Settings } from "./change";

/** One thing that somebody has to do in a store themselves. */
export interface HandWork {
  subject: string;
  /** Whose files it is about; empty where nobody owns the item. */
  owner: string;
  where: string;
  itemName: string;
  audience: string;
  words: string;
}

/** What is known now about the subject of a change. */
export interface Known {
  share: ShareRecord | null;
  item: ItemRecord | null;
}

/**
 * Whether what is known now shows that somebody has made a change that was left to them. About a new link, or
 * leaving a group, an estate file shows nothing: there we rely on the word of whoever did it.
 */
export function isSeenDone(change: Change, { share, item }: Known): boolean {
  if (change.action === "stop-inheriting") return item !== null && !item.inherits;
  if (change.action === "inherit") return item !== null && item.inherits;
  if (share === null || !("shareId" in change)) return false;
  if (change.action === "put-back") return isPutBack(share, change.was);
  if (share.revokedAt) return !UNSEEN.includes(change.action);
  switch (change.action) {
    case "revoke":
      return false;
    case "set-expiry":
      return share.expiresAt !== null && seconds(share.expiresAt) <= seconds(change.expiresAt);
    case "set-password":
      return share.type === "link" && share.password;
    case "block-download":
      return !share.download;
    case "set-role":
      return (ROLES as readonly string[]).indexOf(share.role) <= ROLES.indexOf(change.role);
    case "narrow":
      return share.type === "link" && share.reach === "named" && isWithin(share.recipients, change.addresses);
    case "set-start":
      return share.type === "link" && share.opensAt === change.opensAt;
    case "set-words":
      return share.type === "link" && (share.message ?? null) === change.message;
    case "drop-recipient":
      return share.type === "link" && !isWithin([{ email: change.address }], emailsOf(share.recipients));
    default:
      return false;
  }
}

/** A new link has an id that nobody here knows. */
const UNSEEN: Action[] = ["make-link", "remake-link", "move-intake"];

/** All that can be seen of a password is that there is one. */
function isPutBack(share: ShareRecord, was: Settings): boolean {
  return Object.entries(was).every(([name, value]) => {
    const now = share[name as keyof ShareRecord] ?? null;
    return JSON.stringify(now) === JSON.stringify(value);
  });
}

function isWithin(recipients: readonly { email: string }[], addresses: readonly string[]): boolean {
  const known = new Set(addresses.map(normaliseAddress));
  return recipients.every(({ email }) => known.has(normaliseAddress(email)));
}

function emailsOf(recipients: readonly { email: string }[]): string[] {
  return recipients.map(({ email }) => email);
}
