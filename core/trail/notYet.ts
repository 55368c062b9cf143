import { normaliseAddress } from "../estate/address";
import type { LinkRecord } from "../estate/records";
import { DAY, seconds, type Seconds } from "../time/instant";

/** Something that was expected and has not happened. */
export interface NotYet {
  /** Identifies it, so that it is reported once. */
  key: string;
  /** Since when it is overdue. */
  at: Seconds;
  person: string | null;
  words: string;
}

/** Recipients of a named link who haven't opened it after a number of days while it is still live. */
export function notOpened(link: LinkRecord, itemName: string, days: number, now: Seconds): NotYet[] {
  const made = seconds(link.createdAt);
  const begins = Math.max(made, link.opensAt ? seconds(link.opensAt) : made);
  const at = begins + days * DAY;
  const isOver = Boolean(link.revokedAt) || (link.expiresAt !== null && seconds(link.expiresAt) <= now);
  if (link.reach !== "named" || isOver || at > now) return [];
  return link.recipients
    .filter(({ firstOpenedAt }) => !firstOpenedAt)
    .map(({ email }) => normaliseAddress(email))
    .map((person) => ({
      key: `${link.id}\n${person}`,
      at,
      person,
      words: `${person} hasn’t opened ${itemName} in ${days} days`,
    }));
}

/** An intake link that is over and that nobody sent anything to. */
export function nothingSentIn(link: LinkRecord, itemName: string, now: Seconds): NotYet[] {
  if (link.role !== "deposit" || link.expiresAt === null || link.revokedAt) return [];
  const at = seconds(link.expiresAt);
  if (at > now || link.uses > 0 || link.lastUsedAt) return [];
  return [{ key: link.id, at, person: null, words: `Nothing was sent in to ${itemName} before its link ended` }];
}
