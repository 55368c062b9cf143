import { z } from "zod";
import { mailAddress } from "../estate/mailAddress";
import type { Naming } from "../estate/naming";
import { REACHES, recordSchemas, ROLES } from "../estate/records";

const id = z.string().min(1);
const instant = z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-01T17:00:00Z" });
const addresses = z.array(mailAddress).min(1).max(200);

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
export const changeSchema = z.discriminatedUnion("action", [...ASKED, ...UNDOING]);
export type Change = z.infer<typeof changeSchema>;
export type ShareChange = Extract<Change, { shareId: string }>;
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
};

/** Whether a change makes a share that is over let people in again. */
export function isReopening(change: Change): change is Extract<Change, { action: "set-expiry" }> & { reopen: true } {
  return change.action === "set-expiry" && change.reopen === true;
}

const UNDOES = new Set<string>(UNDOING.map(({ shape }) => shape.action.value));

/** Whether a change lets in whom the estate as it is keeps out: what undoes something, opens again or lasts longer. */
export function isLoosening(change: Change): boolean {
  return UNDOES.has(change.action) || isReopening(change) || ("later" in change && change.later === true);
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
    default:
      return `${change.shareId} ${SIDES[change.action]}`;
  }
}

/** Whether a change makes another one on the same share pointless, so that it takes its place. */
export function takesPlaceOf(later: Change, earlier: Change): boolean {
  if (!("shareId" in later) || !("shareId" in earlier) || later.shareId !== earlier.shareId) return false;
  if (subjectOf(later) === subjectOf(earlier)) return true;
  return later.action === "revoke" || earlier.action === "revoke" || earlier.action === "make-link";
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
    default:
      return { ...change, shareId: named("share", change.shareId) };
  }
}
