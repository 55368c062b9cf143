import { type Estate, storeAt } from "../estate/estate";
import type { StoreRecord } from "../estate/records";
import type { Share } from "../estate/share";
import { filesReached } from "../estate/tree";
import { dayWords, lastDayWords } from "../text/words";
import { canEnd, canHavePassword, canNarrow, honoursBlock } from "./latches";
import { HOUR, NEVER, seconds, type Seconds } from "../time/instant";
import { countWords } from "../text/words";
import { ROLES } from "../estate/records";
import type { Change, MakingChange, Settings, ShareChange } from "./change";
import { holdsAlready } from "./holds";
import { canBlockMade, canEndMade } from "./making";
import { needs } from "./plan";
import { shareAfter } from "./shareAfter";

/** Whether a change can be made in its store; if not, why, and what can be done instead. */
export type Verdict = { can: true } | { can: false; why: string; instead: string };

const YES: Verdict = { can: true };

/**
 * @param among the docket's changes on the same share, in order: those before this one that
 * can be made will have been; where one that it depends on can't be made, nor can this one
 */
export function verdictOn(estate: Estate, change: Change, t: Seconds, among: readonly Change[] = []): Verdict {
  const done: Change[] = [];
  for (const one of among) {
    if (one === change) break;
    if (verdictAfter(estate, one, t, done, among).can) done.push(one);
  }
  return verdictAfter(estate, change, t, done, among);
}

/** @param done what was done on the same share before */
function verdictAfter(
  estate: Estate,
  change: Change,
  t: Seconds,
  done: readonly Change[],
  among: readonly Change[],
): Verdict {
  const isMissing = among.some((one) => needs(change, one) && !done.includes(one));
  return isMissing ? no("A change it depends on can’t be done.") : verdictOnIt(estate, change, t, done);
}

function verdictOnIt(estate: Estate, change: Change, t: Seconds, done: readonly Change[]): Verdict {
  switch (change.action) {
    case "leave-group":
      return onLeaving(estate, change.groupId, change.address);
    case "join-group":
      return onJoining(estate, change);
    case "stop-inheriting":
      return onStoppingInheritance(estate, change.itemId);
    case "inherit":
      return onInheriting(estate, change.itemId);
    case "hand-over":
      return onHandingOver(estate, change.itemId, change.address);
    case "new-link":
    case "new-grant":
      return onMaking(estate, change, t);
    default:
      return onShare(estate, change, t, done);
  }
}

function onShare(estate: Estate, change: ShareChange, t: Seconds, done: readonly Change[]): Verdict {
  const known = estate.share(change.shareId);
  if (!known) return no("This share is no longer in the estate.");
  const before = done.filter((one): one is ShareChange => "shareId" in one && one.shareId === change.shareId);
  const share = shareAfter(estate, known, before, t);
  const store = storeAt(estate, share.position);
  if (change.action === "remake-link") return onRemaking(estate, share, t);
  if (change.action === "put-back") return onPuttingBack(store, share, change.was, t);
  if (share.revoked <= t) return no("It has already been revoked.");
  switch (change.action) {
    case "drop-order":
      return share.order === null ? no("It no longer has a standing order.") : YES;
    case "revoke":
      return YES;
    case "set-start":
    case "set-words":
    case "move-intake":
      return onIntake(estate, store, share, change, t);
    case "drop-recipient":
      return onDropping(estate, share, change.address);
    case "set-expiry":
      return onExpiry(store, share, change, t);
    case "order-revoke":
      if (holdsAlready(share, change, t)) return endsSooner(share);
      return seconds(change.on) > t ? YES : no("That day is in the past.", "Choose a later day, or revoke it.");
    case "set-password":
      if (holdsAlready(share, change, t)) return no("It already has a password.", "Replace it, where that is meant.");
      return onPassword(store, share);
    case "set-role":
      return onRole(share, change.role);
    case "block-download":
      return onBlock(estate, store, share);
    case "narrow":
    case "make-link":
      return onNarrowing(store, share, change.action);
  }
}

type IntakeChange = Extract<Change, { action: "set-start" | "set-words" | "move-intake" }>;

function onIntake(estate: Estate, store: StoreRecord, share: Share, change: IntakeChange, t: Seconds): Verdict {
  if (share.role !== "deposit") return no("It is not an intake link.");
  if (change.action === "move-intake")
    return estate.tree.live[share.position] === 1 ? YES : no("Its folder no longer exists.", "Revoke it.");
  if (change.action === "set-words")
    return store.capabilities.visitorWords ? YES : no(`${store.name} can’t change what visitors read.`);
  if (!store.capabilities.startTime) return no(`${store.name} can’t keep a start on links.`);
  const isBackwards = change.opensAt !== null && seconds(change.opensAt) >= share.ends;
  if (isBackwards) return no("It would start after its end.", "Set a later end first.");
  return change.opensAt === null || seconds(change.opensAt) > t || share.opens > t
    ? YES
    : no("That day is in the past.");
}

/** Whether a share can be made exactly as asked. */
function onMaking(estate: Estate, change: MakingChange, t: Seconds): Verdict {
  const position = estate.tree.position(change.itemId);
  if (position === undefined || estate.tree.live[position] === 0) return no("This item no longer exists.");
  const store = storeAt(estate, position);
  const { capabilities, name } = store;
  const end = change.expiresAt === null ? NEVER : seconds(change.expiresAt);
  if (end <= t) return no("The end date is in the past.", "Choose a later day.");
  if (!change.download && !canBlockMade(estate, change))
    return no(
      `${name} can’t block downloads on a ${estate.tree.kindAt(position)} where people may ${change.role}.`,
      change.role === "view" ? "Allow downloads, or don’t share it." : "Let them look at it only.",
    );
  if (end !== NEVER && !change.endsByOrder) {
    if (!canEndMade(change, capabilities))
      return no(`${name} can’t keep an end date on it.`, "Give it a standing order.");
    if (end < t + capabilities.minExpiryLeadHours * HOUR)
      return no(
        `${name} needs at least ${capabilities.minExpiryLeadHours} hours’ notice for an end date.`,
        `Choose ${lastDayWords(t + capabilities.minExpiryLeadHours * HOUR)} or later.`,
      );
  }
  return change.action === "new-link" ? onNewLink(store, change, end) : onNewGrant(estate, store, change.address);
}

const REACH_ABILITIES = { open: "openLinks", house: "houseLinks", named: "namedLinks" } as const;

function onNewLink(
  { capabilities, name }: StoreRecord,
  { reach, password, opensAt, maxUses, addresses }: Extract<Change, { action: "new-link" }>,
  end: Seconds,
): Verdict {
  if (!capabilities[REACH_ABILITIES[reach]]) return no(`${name} can’t make ${reach} links.`);
  if (reach === "named" && addresses.length === 0) return no("It is for nobody yet.", "Name at least one address.");
  if (password && !(reach === "open" && capabilities.linkPassword))
    return no(
      reach === "open" ? `${name} can’t set passwords on links.` : "Only open links can have a password.",
      "Share it with named people.",
    );
  if (opensAt !== null && !capabilities.startTime) return no(`${name} can’t keep a start on links.`);
  if (opensAt !== null && seconds(opensAt) >= end)
    return no("It would start after its end.", "Choose an earlier start.");
  return maxUses !== null && !capabilities.maxUses ? no(`${name} can’t limit how often a link is used.`) : YES;
}

function onNewGrant(
  { principals }: Estate,
  store: StoreRecord & { isRead?: boolean; source?: string },
  address: string,
): Verdict {
  const person = principals.findAddress(address);
  const isKnown = person !== undefined && (!store.isRead || principals.isNamedBy(person, store.source));
  if (!isKnown) return no(`${store.name} doesn’t know ${address}.`, "Share it by a link.");
  return principals.active[person] === 1 ? YES : no(`${address} no longer works here.`);
}

function onPassword(store: StoreRecord, share: Share): Verdict {
  if (canHavePassword(share, store.capabilities)) return YES;
  if (!share.isLink || share.reach !== "open")
    return no(
      `Only open links can have a password; this is for ${share.isLink ? "a known circle" : "people by name"}.`,
    );
  return no(`${store.name} can’t set passwords on links.`, "Limit it to named people, or revoke it.");
}

function onRole({ role }: Share, lower: (typeof ROLES)[number]): Verdict {
  if (role === "deposit") return no("It only receives files, so there is no role to lower.");
  return ROLES.indexOf(lower) < ROLES.indexOf(role) ? YES : no(`It already gives no more than ${role}.`);
}

function onBlock(estate: Estate, store: StoreRecord, share: Share): Verdict {
  const { tree } = estate;
  const { role } = share;
  const kind = tree.kindAt(share.position);
  if (role === "deposit") return no("Nobody can read with it, so there is nothing to download.");
  if (!share.download) return no("Downloads are already blocked.");
  if (honoursBlock(role, kind, store.capabilities)) return YES;
  if (honoursBlock("view", kind, store.capabilities))
    return no(`${store.name} keeps no block where one may ${role}.`, "Lower it to view first.");
  const { on } = store.capabilities.downloadBlock;
  if (on.length === 0) return no(`${store.name} can't block downloads.`, "End the share, or leave it as it is.");
  if (kind === "file" || !on.includes("file"))
    return no(`${store.name} can't block downloads on a ${kind}.`, "End the share.");
  return no(
    `${store.name} can't block downloads on a ${kind}.`,
    `Block them on its ${countWords(filesReached(tree, share.position), "file")}, or end the share.`,
  );
}

function onNarrowing(store: StoreRecord, share: Share, action: "narrow" | "make-link"): Verdict {
  if (!share.isLink || share.reach === "named") return no("It is already limited to named people.");
  if (share.role === "deposit") return no("An intake link has to be open.", "Give it a password and an end.");
  if (!store.capabilities.namedLinks)
    return no(`${store.name} can’t make links for named people.`, "Revoke it, and share from a store that does.");
  if (action === "make-link" && share.spent)
    return no("It was used up: a new link in its place would let people in again.", "Revoke it, or leave it as it is.");
  if (action === "narrow" && !canNarrow(store.capabilities))
    return no(`${store.name} can’t change who a link is for.`, "Make a new link for them, and revoke this one.");
  return YES;
}

function onExpiry(
  store: StoreRecord,
  share: Share,
  change: Extract<Change, { action: "set-expiry" }>,
  t: Seconds,
): Verdict {
  const end = seconds(change.expiresAt);
  if (share.expires <= t && end > t && !change.reopen)
    return no(
      `It ended on ${dayWords(share.expires)}: a new end date would open it again.`,
      "If you mean to reopen it, set its end date on its own and confirm that.",
    );
  return holdsAlready(share, change, t) ? endsSooner(share) : onEnd(store, share, end, t);
}

function endsSooner({ ends }: Share): Verdict {
  return no(
    `It already ends on ${dayWords(ends)}.`,
    "If you mean a later end date, set it on its own and confirm that.",
  );
}

function onEnd(store: StoreRecord, share: Share, end: Seconds, t: Seconds): Verdict {
  if (!canEnd(share, store.capabilities))
    return no(
      `${store.name} can’t keep an end date on ${kindWords(share)}.`,
      "Give it a standing order, or revoke it.",
    );
  if (end <= t) return no("The end date is in the past.", "Choose a later day, or revoke it.");
  const earliest = t + store.capabilities.minExpiryLeadHours * HOUR;
  if (end < earliest)
    return no(
      `${store.name} needs at least ${store.capabilities.minExpiryLeadHours} hours’ notice for an end date.`,
      `Choose ${lastDayWords(earliest)} or later, or revoke it.`,
    );
  return YES;
}

function onDropping({ principals, shares }: Estate, { slot }: Share, address: string): Verdict {
  const recipients = shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot]);
  const person = principals.findAddress(address);
  const isOne = person !== undefined && shares.isLink(slot) && recipients.includes(person);
  return isOne ? YES : no(`${address} is not one of its recipients.`);
}

function onLeaving({ principals }: Estate, groupId: string, address: string): Verdict {
  const group = principals.findGroup(groupId);
  const person = principals.findAddress(address);
  if (group === undefined) return no("This group is no longer in the estate.");
  const { name, storeId } = principals.groups[group];
  if (person === undefined || !principals.directPeople(group).has(person))
    return no(`${address} is not a direct member of ${name}.`);
  return storeId ? YES : no(`${name} is managed outside the stores.`, "Remove them where it is managed.");
}

function onStoppingInheritance({ tree }: Estate, itemId: string): Verdict {
  const position = tree.position(itemId);
  if (position === undefined) return no("This item is no longer in the estate.");
  return tree.inheritsAt(position) ? YES : no(`${tree.nameAt(position)} inherits nothing from above.`);
}

function onRemaking(estate: Estate, share: Share, t: Seconds): Verdict {
  if (share.revoked > t) return no("The link still works, so it doesn’t need replacing.");
  if (estate.tree.live[share.position] === 0) return no("Its item no longer exists.");
  if (share.expires <= t) return no("Its end date is in the past, so a link like it would open nothing.");
  return share.spent ? no("It was used up, so a link like it would open nothing.") : YES;
}

function onPuttingBack(store: StoreRecord, share: Share, was: Settings, t: Seconds): Verdict {
  const isRevoked = share.revoked <= t;
  if (was.revokedAt === null && !isRevoked) return no("It already works again.");
  if (was.revokedAt === undefined && isRevoked) return no("It has been revoked since.");
  if (!was.expiresAt) return YES;
  const end = seconds(was.expiresAt);
  if (end <= t)
    return no("Its old end date has passed: restored, it would have ended.", "Share it anew where it is needed.");
  const earliest = t + store.capabilities.minExpiryLeadHours * HOUR;
  return end < earliest ? onEnd(store, share, end, t) : YES;
}

function onJoining({ principals }: Estate, { groupId, address }: Extract<Change, { action: "join-group" }>): Verdict {
  const group = principals.findGroup(groupId);
  const person = principals.findAddress(address);
  if (group === undefined) return no("This group is no longer in the estate.");
  if (person === undefined) return no(`${address} is no longer known.`);
  return principals.directPeople(group).has(person) ? no(`${address} is already a member again.`) : YES;
}

function onInheriting({ tree }: Estate, itemId: string): Verdict {
  const position = tree.position(itemId);
  if (position === undefined) return no("This item is no longer in the estate.");
  if (tree.parent[position] < 0) return no("There is nothing above it.");
  return tree.inheritsAt(position) ? no("It already inherits again.") : YES;
}

function onHandingOver(estate: Estate, itemId: string, address: string): Verdict {
  const { tree, principals } = estate;
  const position = tree.position(itemId);
  if (position === undefined) return no("This item is no longer in the estate.");
  const person = principals.findAddress(address);
  if (person === undefined || principals.insider[person] === 0 || principals.active[person] === 0)
    return no(`${address} doesn’t work here.`, "Choose one of your own people.");
  if (estate.ownerAt(position) === person) return no(`${address} already owns it.`);
  const store = storeAt(estate, position);
  return store.isRead && !principals.isNamedBy(person, store.source)
    ? no(`${store.name} doesn’t know ${address}.`, "Choose somebody who has an account there.")
    : YES;
}

function no(why: string, instead = "Remove the change."): Verdict {
  return { can: false, why, instead };
}

function kindWords({ isLink, reach, role }: Share): string {
  return isLink ? `${reach} links` : `grants to ${role}`;
}
