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

/** What can be restored of a share. For a password that is only whether there is one: nobody knows the old one. */
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
  /** Allows an end later than the current one, or one that reopens what has ended. */
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
   * The passphrase is made when the change is carried out, and is never part of the change. It replaces a
   * password only where this says so.
   */
  z.object({ action: z.literal("set-password"), shareId: id, replace: z.literal(true).optional() }),
  z.object({ action: z.literal("block-download"), shareId: id }),
  /** Only to a lower role. */
  z.object({ action: z.literal("set-role"), shareId: id, role: z.enum(ROLES) }),
  /** Limits an open or house link to some addresses; the link keeps its own address. */
  z.object({ action: z.literal("narrow"), shareId: id, addresses }),
  /** Makes a link for some addresses that replaces another, whose reach its store can't change. */
  z.object({ action: z.literal("make-link"), shareId: id, addresses }),
  /** Removes one recipient from a named link. */
  z.object({ action: z.literal("drop-recipient"), shareId: id, address: id }),
  /** Removes a person from a group that they are a direct member of. */
  z.object({ action: z.literal("leave-group"), groupId: id, address: id }),
  /** Stops an item, and everything below it, from inheriting what is shared above. */
  z.object({ action: z.literal("stop-inheriting"), itemId: id }),
  /** Gives an item, with the links on it that its owner made, to another owner. */
  z.object({ action: z.literal("hand-over"), itemId: id, address: id, links: z.array(id).default([]) }),
  /** When an intake link begins to take files. */
  z.object({ action: z.literal("set-start"), shareId: id, opensAt: instant.nullable() }),
  /** What people who open an intake link are told; null for the store's own text. */
  z.object({ action: z.literal("set-words"), shareId: id, message: visitorWords.nullable() }),
  /** Makes an empty folder beside that of an intake link, and a link like it on the new one. */
  z.object({ action: z.literal("move-intake"), shareId: id, folder: itemName }),
] as const;

/** What a new share has from the start. */
const made = {
  itemId: id,
  /** Distinguishes it from others made on the same item. */
  mark: id,
  /** Who asked for it: they become its maker, where its store knows them. */
  by: mailAddress,
  download: z.boolean(),
  expiresAt: instant.nullable(),
  /** Its store can't keep an end date, so we revoke it on that day ourselves. */
  endsByOrder: z.literal(true).optional(),
  /** The share that it replaces. */
  replaces: id.optional(),
};

/** Makes a new share. These come only from the sentence that asks for one, which is judged by every rule. */
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

/** Changes that only an undo asks for. */
const UNDOING = [
  z.object({ action: z.literal("put-back"), shareId: id, was: settings }),
  /** A link like one that was revoked, with a new address, and a new password where the old one had one. */
  z.object({ action: z.literal("remake-link"), shareId: id }),
  /** By every record of the person. */
  z.object({ action: z.literal("join-group"), groupId: id, memberIds: z.array(id).min(1), address: id }),
  z.object({ action: z.literal("inherit"), itemId: id }),
  /** Cancels a standing order for an instant. */
  z.object({ action: z.literal("drop-order"), shareId: id, on: instant }),
] as const;

/** One change, as it is staged, kept and sent to a store. */
export const changeSchema = z.discriminatedUnion("action", [...ASKED, ...MAKING, ...UNDOING]);
export type Change = z.infer<typeof changeSchema>;
export type ShareChange = Extract<Change, { shareId: string }>;
export type MakingChange = z.infer<(typeof MAKING)[number]>;
export type Action = Change["action"];

/** Which side of a share a change affects: a docket holds one change for each. */
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

/** Whether a change reopens a share that is over. */
export function isReopening(change: Change): change is Extract<Change, { action: "set-expiry" }> & { reopen: true } {
  return change.action === "set-expiry" && change.reopen === true;
}

export function isMaking(change: Change): change is MakingChange {
  return change.action === "new-link" || change.action === "new-grant";
}

const UNDOES = new Set<string>(UNDOING.map(({ shape }) => shape.action.value));

/** Whether a change lets in people who are kept out now: it undoes something, reopens it or makes it last longer. */
export function isLoosening(change: Change): boolean {
  return (
    UNDOES.has(change.action) || isMaking(change) || isReopening(change) || ("later" in change && change.later === true)
  );
}

/** What a change is about. A docket holds one change for each subject; a later one replaces it. */
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

/** Makes a new link instead of another, which it leaves as it is. */
const REPLACING = new Set<Action>(["make-link", "move-intake"]);

/** Whether a change makes another one on the same share pointless, and so replaces it. */
export function takesPlaceOf(later: Change, earlier: Change): boolean {
  if (!("shareId" in later) || !("shareId" in earlier) || later.shareId !== earlier.shareId) return false;
  if (subjectOf(later) === subjectOf(earlier)) return true;
  return later.action === "revoke" || REPLACING.has(earlier.action) || earlier.action === "revoke";
}

/** The change with each of its ids replaced. */
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
