import { z } from "zod";
import type { Estate } from "../estate/estate";
import { withAllBelow } from "../estate/tree";
import type { Seconds } from "../time/instant";
import { ASKED, type Change, type ShareChange } from "./change";
import { holdsAlready, withoutIdleLeave } from "./holds";

const id = z.string().min(1);

/**
 * What somebody wants: a change, or one of the intents that stand for many. To seal an item is to revoke every link
 * and every grant on it but its owner's; to cut somebody off, to take every grant, every recipient entry and every
 * group membership of theirs, in every store; to clear, to revoke links that are broken or spent.
 */
export const intentSchema = z.discriminatedUnion("action", [
  ...ASKED,
  z.object({ action: z.literal("seal"), itemId: id, below: z.boolean() }),
  z.object({ action: z.literal("cut-off"), address: id }),
  z.object({ action: z.literal("cut-off-organisation"), organisation: id }),
  z.object({ action: z.literal("hand-over-all"), from: id, address: id }),
  z.object({ action: z.literal("clear") }),
]);
/** Also a change that only an undo asks for; those are never asked for from outside. */
export type Intent = z.infer<typeof intentSchema> | Change;

/**
 * The changes that an intent stands for at t: none where everything is so already, null where its subject doesn't exist
 * here.
 */
export function intendedChanges(estate: Estate, intent: Intent, t: Seconds): Change[] | null {
  const { principals, people, tree } = estate;
  switch (intent.action) {
    case "seal": {
      const position = tree.position(intent.itemId);
      return position === undefined ? null : sealed(estate, position, intent.below, t);
    }
    case "cut-off": {
      const person = principals.findAddress(intent.address);
      return person === undefined ? null : cutOff(estate, [person], t);
    }
    case "cut-off-organisation": {
      const theirs = people.filter(({ organisation, insider }) => organisation === intent.organisation && !insider);
      return theirs.length === 0
        ? null
        : cutOff(
            estate,
            theirs.map(({ index }) => index),
            t,
          );
    }
    case "hand-over-all": {
      const owner = principals.findAddress(intent.from);
      return owner === undefined ? null : ownedBy(estate, owner).map((at) => handOver(estate, at, intent.address, t));
    }
    case "hand-over": {
      const position = tree.position(intent.itemId);
      // An undo names the links that went along then, and no others.
      if (intent.links.length > 0) return [intent];
      return position === undefined ? null : [handOver(estate, position, intent.address, t)];
    }
    case "clear":
      return cleared(estate, t);
    default:
      return wished(estate, intent, t);
  }
}

/** No change is needed for what is so already, and tightening never loosens. */
function wished(estate: Estate, intent: Change, t: Seconds): Change[] {
  const change = withoutIdleLeave(estate, intent, t);
  const share = "shareId" in change && estate.share(change.shareId);
  return share && holdsAlready(share, change as ShareChange, t) ? [] : [change];
}

function sealed(estate: Estate, position: number, below: boolean, t: Seconds): Change[] {
  const changes: Change[] = [];
  for (const at of below ? withAllBelow(estate.tree, position) : [position])
    for (const slot of sharesOn(estate, at, t)) if (!isOwners(estate, slot, at)) changes.push(revoke(estate, slot));
  return changes;
}

function sharesOn(estate: Estate, position: number, t: Seconds): number[] {
  const { shares } = estate;
  const slots: number[] = [];
  for (let slot = estate.firstShareAt(position); slot >= 0; slot = shares.nextOnItem[slot])
    if (shares.revoked[slot] > t) slots.push(slot);
  return slots;
}

function isOwners(estate: Estate, slot: number, position: number): boolean {
  const { shares, principals } = estate;
  const owner = estate.ownerAt(position);
  return owner >= 0 && !shares.isLink(slot) && shares.to[slot] >= 0 && principals.personOf[shares.to[slot]] === owner;
}

/** A link is revoked rather than left without a recipient. */
function cutOff(estate: Estate, persons: readonly number[], t: Seconds): Change[] {
  const { shares, principals, people } = estate;
  const theirs = new Set(persons);
  const changes: Change[] = [];
  for (const { slot, isLink } of estate.allShares()) {
    if (shares.revoked[slot] <= t) continue;
    if (!isLink) {
      const to = shares.to[slot] < 0 ? -1 : principals.personOf[shares.to[slot]];
      if (theirs.has(to) && principals.groupOf[shares.to[slot]] < 0) changes.push(revoke(estate, slot));
      continue;
    }
    const recipients = [...shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot])];
    const dropped = [...new Set(recipients.filter((one) => theirs.has(one)))];
    if (dropped.length === 0) continue;
    if (recipients.every((one) => theirs.has(one))) changes.push(revoke(estate, slot));
    else
      for (const one of dropped)
        changes.push({ action: "drop-recipient", shareId: shares.idOf(slot), address: people[one].address });
  }
  for (const person of persons)
    for (const group of principals.directGroupsOf(person))
      changes.push({ action: "leave-group", groupId: principals.groups[group].id, address: people[person].address });
  return changes;
}

function ownedBy(estate: Estate, owner: number): number[] {
  const { tree } = estate;
  const owned: number[] = [];
  for (let position = 0; position < tree.length; position++)
    if (tree.live[position] === 1 && estate.ownerAt(position) === owner) owned.push(position);
  return owned;
}

function handOver(estate: Estate, position: number, address: string, t: Seconds): Change {
  const { shares, principals, tree } = estate;
  const owner = estate.ownerAt(position);
  const links = sharesOn(estate, position, t).filter(
    (slot) => owner >= 0 && shares.isLink(slot) && principals.personOf[shares.maker[slot]] === owner,
  );
  return {
    action: "hand-over",
    itemId: tree.idAt(position),
    address,
    links: links.map((slot) => shares.idOf(slot)),
  };
}

/** Links that let nobody in any more, and aren't revoked: their item is gone, or they have expired or are used up. */
function cleared({ tree, shares }: Estate, t: Seconds): Change[] {
  const changes: Change[] = [];
  for (let slot = 0; slot < shares.count; slot++) {
    const position = shares.position[slot];
    if (position < 0 || !shares.isLink(slot) || shares.revoked[slot] <= t) continue;
    const isBroken = tree.live[position] === 0;
    if (isBroken || shares.expires[slot] <= t || shares.isSpent(slot))
      changes.push({ action: "revoke", shareId: shares.idOf(slot) });
  }
  return changes;
}

function revoke({ shares }: Estate, slot: number): Change {
  return { action: "revoke", shareId: shares.idOf(slot) };
}

/** What an intent is called where it changes nothing. */
export function intentWords(intent: Intent): string {
  switch (intent.action) {
    case "seal":
      return intent.itemId;
    case "cut-off":
      return intent.address;
    case "cut-off-organisation":
      return intent.organisation;
    case "hand-over-all":
      return intent.from;
    case "clear":
      return "clear";
    default:
      return "shareId" in intent ? intent.shareId : "itemId" in intent ? intent.itemId : intent.groupId;
  }
}
