import type { Estate } from "../estate/estate";
import { placeOf } from "../estate/tree";
import { lastDayWords } from "../text/words";
import { byText } from "../text/text";
import { seconds } from "../time/instant";
import type { Change } from "./change";

/** What was done to one thing, for one reader. */
export interface ToldLine {
  itemName: string;
  place: string;
  words: string;
  /** The link that replaced another, and whose address has to be passed on. */
  newLink: string | null;
}

export interface ToldPerson {
  address: string;
  name: string;
  lines: ToldLine[];
}

/** A notice that goes out, or has gone. */
export interface SentNotice {
  audience: ToldAudience;
  address: string;
  state: "waiting" | "sent" | "aside";
}

/** What a docket's notices are about, and which of them somebody asked for. */
export interface NoticesView {
  telling: Telling;
  /** The docket's name and its reason, where somebody gave them. */
  name: string | null;
  reason: string | null;
  sent: SentNotice[];
}

/** Who can be told about a docket: the owners of its items, and people whose access it changed. */
export interface Telling {
  owners: ToldPerson[];
  recipients: ToldPerson[];
}

/** A change to tell about, and the link that it made, if any. */
export interface ToldChange {
  change: Change;
  made: string | null;
}

/**
 * What to tell each person about a docket's changes, in one notice each. Holders of an open link's address and
 * members of a group aren't known by name, so they aren't told.
 */
export function tellingOf(estate: Estate, changes: readonly ToldChange[]): Telling {
  const owners = new Map<number, ToldLine[]>();
  const recipients = new Map<number, ToldLine[]>();
  for (const one of changes) {
    const position = positionOf(estate, one.change);
    const line = (words: string): ToldLine => ({ ...whereOf(estate, position, one.change), words, newLink: one.made });
    const owner = position === undefined ? -1 : estate.activeOwnerAt(position);
    if (owner >= 0) add(owners, owner, { ...line(ownerWords(one.change)), newLink: null });
    const words = recipientWords(one.change);
    const people = touched(estate, one.change);
    if (words !== null) for (const person of people) add(recipients, person, line(words));
    if (one.change.action !== "remake-link" || people.length > 0) continue;
    const passesOn = passingOn(estate, one.change.shareId);
    if (passesOn >= 0) add(recipients, passesOn, line(PASS_ON));
  }
  return { owners: people(estate, owners), recipients: people(estate, recipients) };
}

const PASS_ON = "a new link to it was made, with a new address: pass it on to those who need it";

/**
 * Who passes on the new address of a link without named recipients: its maker, or the item's owner if the maker
 * has left; below 0 where there is nobody.
 */
export function passingOn(estate: Estate, shareId: string): number {
  const share = estate.share(shareId);
  if (!share) return -1;
  return share.maker >= 0 && estate.principals.active[share.maker] === 1
    ? share.maker
    : estate.activeOwnerAt(share.position);
}

function positionOf({ tree, shares }: Estate, change: Change): number | undefined {
  if ("itemId" in change) return tree.position(change.itemId);
  const slot = "shareId" in change ? shares.find(change.shareId) : undefined;
  return slot === undefined || shares.position[slot] < 0 ? undefined : shares.position[slot];
}

function whereOf({ tree, principals }: Estate, position: number | undefined, change: Change) {
  if (position !== undefined) return { itemName: tree.nameAt(position), place: placeOf(tree, position).join(" / ") };
  const group = "groupId" in change ? principals.findGroup(change.groupId) : undefined;
  return { itemName: group === undefined ? "" : principals.groups[group].name, place: "" };
}

/** The people whom a change names. */
function touched({ principals, shares }: Estate, change: Change): number[] {
  const named = (addresses: readonly string[]) =>
    addresses.map((one) => principals.findAddress(one)).filter((one) => one !== undefined);
  if ("address" in change) return named([change.address]);
  if ("addresses" in change) return named(change.addresses);
  const slot = "shareId" in change ? shares.find(change.shareId) : undefined;
  if (slot === undefined) return [];
  if (shares.isLink(slot))
    return Array.from(shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot]));
  const person = shares.to[slot] < 0 ? -1 : principals.personOf[shares.to[slot]];
  return person < 0 || principals.groupOf[shares.to[slot]] >= 0 ? [] : [person];
}

function ownerWords(change: Change): string {
  switch (change.action) {
    case "revoke":
      return "a share of it was revoked";
    case "set-expiry":
      return `a share of it ends on ${lastDayWords(seconds(change.expiresAt))}`;
    case "order-revoke":
      return `a share of it will be revoked on ${lastDayWords(seconds(change.on))}`;
    case "set-password":
      return "a link to it now asks for a password";
    case "block-download":
      return "a share of it no longer allows downloads";
    case "set-role":
      return `a share of it now only lets people ${change.role}`;
    case "narrow":
    case "make-link":
      return `a link to it is now only for ${change.addresses.join(", ")}`;
    case "drop-recipient":
      return `${change.address} was removed from a link to it`;
    case "stop-inheriting":
      return "shares further up no longer reach it";
    case "hand-over":
      return "you now own it";
    case "put-back":
      return "a share of it is as it was before";
    case "remake-link":
      return "a link to it was made again, with a new address";
    case "inherit":
      return "shares further up reach it again";
    case "drop-order":
      return "a share of it is no longer scheduled to be revoked";
    case "set-start":
      return "an intake link to it takes files from another day on";
    case "set-words":
      return "those who come with an intake link to it read other words";
    case "move-intake":
      return `an intake link to it has a folder of its own now, ${change.folder}`;
    case "new-link":
      return change.reach === "named" ? `it is shared with ${change.addresses.join(", ")}` : "a link to it was made";
    case "new-grant":
      return `it is shared with ${change.address}`;
    case "leave-group":
    case "join-group":
      return "";
  }
}

/** Null where nothing changes that people with access need to know. */
function recipientWords(change: Change): string | null {
  switch (change.action) {
    case "revoke":
    case "drop-recipient":
      return "a share that let you open it was ended";
    case "set-expiry":
      return `one share lets you open it until ${lastDayWords(seconds(change.expiresAt))}`;
    case "order-revoke":
      return `one share lets you open it until ${lastDayWords(seconds(change.on))}`;
    case "set-password":
      return "a link to it now asks for a password, which somebody will give you";
    case "block-download":
      return "you can view it but no longer download it";
    case "set-role":
      return `you can now only ${change.role} it`;
    case "make-link":
    case "remake-link":
    case "move-intake":
      return "there is a new link to it for you";
    case "leave-group":
      return "you are no longer in this group";
    case "join-group":
      return "you are in this group again";
    case "put-back":
      return "you can open it as before";
    default:
      return null;
  }
}

function add(lists: Map<number, ToldLine[]>, person: number, line: ToldLine) {
  const list = lists.get(person);
  if (list) list.push(line);
  else lists.set(person, [line]);
}

function people({ people }: Estate, lists: ReadonlyMap<number, ToldLine[]>): ToldPerson[] {
  const all = [...lists].map(([index, lines]) => ({
    address: people[index].address,
    name: people[index].name,
    lines: lines.sort((a, b) => byText(a.place, b.place) || byText(a.itemName, b.itemName)),
  }));
  return all.sort((a, b) => byText(a.address, b.address));
}

/** Which of the people who can be told. */
export const TOLD = ["owners", "recipients"] as const;
export type ToldAudience = (typeof TOLD)[number];

/** What a notice says before and after its list, until the sender changes it. */
const NOTICE_WORDS: Record<ToldAudience, { subject: string; head: string }> = {
  owners: {
    subject: "Sharing of your files was changed",
    head: "We reviewed what is shared outside and changed the following about your files. You don’t need to do anything. If something is needed again, reply to this mail.",
  },
  recipients: {
    subject: "Your access to shared files was changed",
    head: "We reviewed what we share, and the following has changed for you. If you still need something, reply to this mail.",
  },
};

/**
 * A notice's subject and opening, until the sender changes them, with the docket's reason if it has one. The docket's
 * name is for our own people: to others it says nothing, or too much.
 */
export function noticeWords(
  audience: ToldAudience,
  { name, reason }: Pick<NoticesView, "name" | "reason">,
): { subject: string; head: string } {
  const { subject, head } = NOTICE_WORDS[audience];
  return {
    subject: audience === "owners" && name !== null ? `${subject}: ${name}` : subject,
    head: reason === null ? head : `${head}\n\nReason: ${reason}`,
  };
}
