import { z } from "zod";
import { mailAddress } from "../estate/mailAddress";
import type { Naming } from "../estate/naming";
import { REACHES, recordSchemas, ROLES } from "../estate/records";
import { writtenLine, writtenLines } from "../text/written";

const id = z.string().min(1);
const instant = z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-01T17:00:00Z" });
const addresses = z.array(mailAddress).min(1).max(200);
export const visitorWords = writtenLines.min(1, "Write what visitors are to read.").max(2_000);
const itemName = writtenLine
  .min(1, "Give the folder a name.")
  .max(200)
  .regex(/^[^/\\]*$/, "A folder’s name has no slashes.");

/** What of a share can be put back as it was. Of a password only whether there is one: nobody knows the old one. */
const settings = z
  .strictObject({
    expiresAt: instant.nullable(),
    role: z.enum([...ROLES, "deposit"]),
    download: z.boolean(),
    password: z.boolean(),
    reach: z.enum(REACHES),
    listed: z.boolean(),
    recipients: recordSchemas.link.shape.recipients,
    opensAt: instant.nullable(),
    message: z.string().nullable(),
    /** Of a grant: in force again. */
    revokedAt: z.null(),
  })
  .partial();
export type Settings = z.infer<typeof settings>;

/** What somebody who may change things can ask for. */
export const ASKED = [
  z.object({ action: z.literal("revoke"), shareId: id }),
  /** An end that comes later than the one there is, or opens again what has ended: only where that is said. */
  z.object({
    action: z.literal("set-expiry"),
    shareId: id,
    expiresAt: instant,
    later: z.literal(true).optional(),
    reopen: z.literal(true).optional(),
  }),
  /** A standing order: where the store can't keep an end, Tight Latch revokes the share itself at that instant. */
  z.object({ action: z.literal("order-revoke"), shareId: id, on: instant, later: z.literal(true).optional() }),
  /**
   * The passphrase is made when the change is carried out; it never stands in the change. It takes the place of a
   * password only where that is said.
   */
  z.object({ action: z.literal("set-password"), shareId: id, replace: z.literal(true).optional() }),
  z.object({ action: z.literal("block-download"), shareId: id }),
  /** Only to a lower role. */
  z.object({ action: z.literal("set-role"), shareId: id, role: z.enum(ROLES) }),
  /** Makes an open or house link one for some addresses alone; the link's own address stays. */
  z.object({ action: z.literal("narrow"), shareId: id, addresses }),
  /** Makes a link for some addresses like another, which has to go since its store can't change its reach. */
  z.object({ action: z.literal("make-link"), shareId: id, addresses }),
  /** Takes one recipient off a named link. */
  z.object({ action: z.literal("drop-recipient"), shareId: id, address: id }),
  /** Takes a person out of a group that holds them itself. */
  z.object({ action: z.literal("leave-group"), groupId: id, address: id }),
  /** Keeps from an item, and what lies below it, all that is shared above it. */
  z.object({ action: z.literal("stop-inheriting"), itemId: id }),
  /** Gives an item to another owner, and with it the links on it that the one before made. */
  z.object({ action: z.literal("hand-over"), itemId: id, address: id, links: z.array(id).default([]) }),
  /** From when an intake link takes files. */
  z.object({ action: z.literal("set-start"), shareId: id, opensAt: instant.nullable() }),
  /** What those who come with an intake link are told; null is the store's own text. */
  z.object({ action: z.literal("set-words"), shareId: id, message: visitorWords.nullable() }),
  /** Makes an empty folder beside that of an intake link, and a link like it on the new one. */
  z.object({ action: z.literal("move-intake"), shareId: id, folder: itemName }),
] as const;

/** What a share has from its first minute. */
const made = {
  itemId: id,
  /** Tells it from others that are made on the same item. */
  mark: id,
  /** Whoever asked for it: its maker, where its store knows them. */
  by: mailAddress,
  download: z.boolean(),
  expiresAt: instant.nullable(),
  /** Its store can't keep the end: we revoke it then ourselves. */
  endsByOrder: z.literal(true).optional(),
  /** The share that it comes in the place of. */
  replaces: id.optional(),
};

/** What makes a share that wasn't there: asked for in a sentence that is judged by every rule, and nowhere else. */
const MAKING = [
  z.object({
    action: z.literal("new-link"),
    ...made,
    reach: z.enum(REACHES),
    role: z.enum(["view", "comment", "edit"]),
    /** Of a named link: whom it is for. */
    addresses: z.array(mailAddress).max(200),
    password: z.boolean(),
    opensAt: instant.nullable(),
    maxUses: z.int().positive().nullable(),
  }),
  z.object({
    action: z.literal("new-grant"),
    ...made,
    role: z.enum(["view", "comment", "edit"]),
    address: mailAddress,
  }),
] as const;

/** What undoes what was done; only an undo asks for these. */
const UNDOING = [
  z.object({ action: z.literal("put-back"), shareId: id, was: settings }),
  /** A link like one that was revoked, with an address of its own; where that had a password, with a new one. */
  z.object({ action: z.literal("remake-link"), shareId: id }),
  /** By all the records that stand for the person. */
  z.object({ action: z.literal("join-group"), groupId: id, memberIds: z.array(id).min(1), address: id }),
  z.object({ action: z.literal("inherit"), itemId: id }),
  /** Drops a standing order that was given for an instant. */
  z.object({ action: z.literal("drop-order"), shareId: id, on: instant }),
] as const;

/** One change, as it is staged, kept and sent to a store. */
export const changeSchema = z.discriminatedUnion("action", [...ASKED, ...MAKING, ...UNDOING]);
export type Change = z.infer<typeof changeSchema>;
export type ShareChange = Extract<Change, { shareId: string }>;
export type MakingChange = z.infer<(typeof MAKING)[number]>;
export type Action = Change["action"];

/** Which side of a share a change turns: of each side a docket holds one change. */
const SIDES: Partial<Record<Action, string>> = {
  "set-expiry": "expiry",
  "order-revoke": "expiry",
  "set-password": "password",
  "block-download": "download",
  "set-role": "role",
  narrow: "named",
  "make-link": "named",
  "put-back": "back",
  "remake-link": "anew",
  "drop-order": "expiry",
  "set-start": "start",
  "set-words": "words",
  "move-intake": "place",
};

/** Whether a change makes a share that is over let people in again. */
export function isReopening(change: Change): change is Extract<Change, { action: "set-expiry" }> & { reopen: true } {
  return change.action === "set-expiry" && change.reopen === true;
}

export function isMaking(change: Change): change is MakingChange {
  return change.action === "new-link" || change.action === "new-grant";
}

const UNDOES = new Set<string>(UNDOING.map(({ shape }) => shape.action.value));

/** Whether a change lets in whom the estate as it is keeps out: what undoes something, opens again or lasts longer. */
export function isLoosening(change: Change): boolean {
  return (
    UNDOES.has(change.action) || isMaking(change) || isReopening(change) || ("later" in change && change.later === true)
  );
}

/** What a change is about: of each subject a docket holds one change; a later one takes the earlier's place. */
export function subjectOf(change: Change): string {
  switch (change.action) {
    case "revoke":
      return change.shareId;
    case "drop-recipient":
      return `${change.shareId} without ${change.address}`;
    case "leave-group":
      return `${change.groupId} without ${change.address}`;
    case "join-group":
      return `${change.groupId} with ${change.address}`;
    case "stop-inheriting":
    case "inherit":
      return `above ${change.itemId}`;
    case "hand-over":
      return `owner of ${change.itemId}`;
    case "new-link":
      return `new ${change.mark}`;
    case "new-grant":
      return `new ${change.mark} for ${change.address}`;
    default:
      return `${change.shareId} ${SIDES[change.action]}`;
  }
}

/** What makes another link in the place of one, which it leaves alone. */
const REPLACING = new Set<Action>(["make-link", "move-intake"]);

/** Whether a change makes another one on the same share pointless, so that it takes its place. */
export function takesPlaceOf(later: Change, earlier: Change): boolean {
  if (!("shareId" in later) || !("shareId" in earlier) || later.shareId !== earlier.shareId) return false;
  if (subjectOf(later) === subjectOf(earlier)) return true;
  return later.action === "revoke" || REPLACING.has(earlier.action) || earlier.action === "revoke";
}

/** A change with all ids that stand in it, in place of which others are given. */
export function changeWithIds(change: Change, named: Naming): Change {
  switch (change.action) {
    case "leave-group":
      return { ...change, groupId: named("principal", change.groupId) };
    case "join-group":
      return {
        ...change,
        groupId: named("principal", change.groupId),
        memberIds: change.memberIds.map((id) => named("principal", id)),
      };
    case "stop-inheriting":
    case "inherit":
      return { ...change, itemId: named("item", change.itemId) };
    case "hand-over":
      return {
        ...change,
        itemId: named("item", change.itemId),
        links: change.links.map((id) => named("share", id)),
      };
    case "new-link":
    case "new-grant":
      return {
        ...change,
        itemId: named("item", change.itemId),
        ...(change.replaces !== undefined && { replaces: named("share", change.replaces) }),
      };
    default:
      return { ...change, shareId: named("share", change.shareId) };
  }
}
