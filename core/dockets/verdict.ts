import { type Estate, storeAt } from "../estate/estate";
import type { StoreRecord } from "../estate/records";
import type { Share } from "../estate/share";
import { dayWords } from "../register/words";
import { canEnd } from "../rules/latches";
import { DAY, HOUR, seconds, type Seconds } from "../time/instant";
import type { Change } from "./change";

/** Whether a change can be done in its store; if not, why, and what can be done instead. */
export type Verdict = { can: true } | { can: false; why: string; instead: string };

const YES: Verdict = { can: true };

export function verdictOn(estate: Estate, change: Change, t: Seconds): Verdict {
  switch (change.action) {
    case "leave-group":
      return onLeaving(estate, change.groupId, change.address);
    case "stop-inheriting":
      return onStoppingInheritance(estate, change.itemId);
    default:
      return onShare(estate, change, t);
  }
}

type ShareChange = Extract<Change, { shareId: string }>;

function onShare(estate: Estate, change: ShareChange, t: Seconds): Verdict {
  const share = estate.share(change.shareId);
  if (!share) return no("This share isn't in the estate any more.");
  if (share.revoked <= t) return no("It has been revoked already.");
  if (change.action === "revoke") return YES;
  if (change.action === "drop-recipient") return onDropping(estate, share, change.address);
  return onExpiry(storeAt(estate, share.position), share, seconds(change.expiresAt), t);
}

function onExpiry(store: StoreRecord, share: Share, end: Seconds, t: Seconds): Verdict {
  if (!canEnd(share, store.capabilities))
    return no(`${store.name} keeps no end date on ${kindWords(share)}.`, "Revoke it, or leave it as it is.");
  if (end <= t) return no("The end date lies in the past.", "Choose a later day, or revoke it.");
  const earliest = t + store.capabilities.minExpiryLeadHours * HOUR;
  if (end < earliest)
    return no(
      `${store.name} wants an end at least ${store.capabilities.minExpiryLeadHours} hours ahead.`,
      `Choose ${dayWords(earliest + DAY)} or later, or revoke it.`,
    );
  return YES;
}

function onDropping({ principals, shares }: Estate, { slot }: Share, address: string): Verdict {
  const recipients = shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot]);
  const person = principals.findAddress(address);
  const isOne = person !== undefined && shares.isLink(slot) && recipients.includes(person);
  return isOne ? YES : no(`${address} is not among its recipients.`);
}

function onLeaving({ principals }: Estate, groupId: string, address: string): Verdict {
  const group = principals.findGroup(groupId);
  const person = principals.findAddress(address);
  if (group === undefined) return no("This group isn't in the estate any more.");
  const { name, storeId } = principals.groups[group];
  if (person === undefined || !principals.directPeople(group).has(person))
    return no(`${address} is not a member of ${name} itself.`);
  return storeId ? YES : no(`${name} is kept outside the stores.`, "Take them out of it where it is kept.");
}

function onStoppingInheritance({ tree }: Estate, itemId: string): Verdict {
  const position = tree.position(itemId);
  if (position === undefined) return no("This item isn't in the estate any more.");
  return tree.inheritsAt(position) ? YES : no(`${tree.nameAt(position)} inherits nothing from above.`);
}

function no(why: string, instead = "Take the change out."): Verdict {
  return { can: false, why, instead };
}

function kindWords({ isLink, reach, role }: Share): string {
  return isLink ? `${reach} links` : `grants to ${role}`;
}
