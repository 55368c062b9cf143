import { z } from "zod";

const id = z.string().min(1);

/** One change, as it is staged, kept and sent to a store. */
export const changeSchema = z.discriminatedUnion("action", [
  z.object({ action: z.literal("revoke"), shareId: id }),
  z.object({
    action: z.literal("set-expiry"),
    shareId: id,
    expiresAt: z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-01T17:00:00Z" }),
  }),
  /** Takes one recipient off a named link. */
  z.object({ action: z.literal("drop-recipient"), shareId: id, address: id }),
  /** Takes a person out of a group that holds them itself. */
  z.object({ action: z.literal("leave-group"), groupId: id, address: id }),
  /** Keeps from an item, and what lies below it, all that is shared above it. */
  z.object({ action: z.literal("stop-inheriting"), itemId: id }),
]);
export type Change = z.infer<typeof changeSchema>;
export type Action = Change["action"];
export const ACTIONS = changeSchema.options.map((option) => option.shape.action.value);

/** What a change is about: of each subject a docket holds one change; a later one takes the earlier's place. */
export function subjectOf(change: Change): string {
  switch (change.action) {
    case "revoke":
    case "set-expiry":
      return change.shareId;
    case "drop-recipient":
      return `${change.shareId} without ${change.address}`;
    case "leave-group":
      return `${change.groupId} without ${change.address}`;
    case "stop-inheriting":
      return `above ${change.itemId}`;
  }
}
