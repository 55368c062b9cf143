import type { Action, Change } from "./change";
import { seconds } from "../time/instant";
import { dayWords, lastDayWords } from "../text/words";

/** A change in a few words, to stand before what it is about. */
export function changeWords(change: Change): string {
  switch (change.action) {
    case "revoke":
      return "Revoke";
    case "set-expiry":
      return `End ${lastDayWords(seconds(change.expiresAt))}`;
    case "order-revoke":
      return `Revoke on ${lastDayWords(seconds(change.on))}`;
    case "set-password":
      return "Set a password";
    case "block-download":
      return "Block downloads";
    case "set-role":
      return `Lower to ${change.role}`;
    case "narrow":
      return `Limit to ${change.addresses.length} named`;
    case "make-link":
      return `New link for ${change.addresses.length}`;
    case "drop-recipient":
      return "Remove from link";
    case "leave-group":
      return "Remove from group";
    case "stop-inheriting":
      return "Stop inheriting";
    case "hand-over":
      return "Hand over";
    case "set-start":
      return change.opensAt === null ? "Open from now" : `Open from ${dayWords(seconds(change.opensAt))}`;
    case "set-words":
      return change.message === null ? "Use the store’s own words" : "Change the words for visitors";
    case "move-intake":
      return `Move to a folder of its own: ${change.folder}`;
    case "new-link":
      return `Make ${change.reach === "open" ? "an open" : `a ${change.reach}`} link to ${change.role}`;
    case "new-grant":
      return `Let them ${change.role}`;
    case "put-back":
      return "Restore";
    case "remake-link":
      return "Make a new link";
    case "join-group":
      return "Add back to group";
    case "inherit":
      return "Inherit again";
    case "drop-order":
      return "Cancel standing order";
  }
}

/** What a kind of change does, as a heading over many of them. */
export const ACTION_TITLES: Record<Action, string> = {
  revoke: "Revoked",
  "set-expiry": "Given an end date",
  "order-revoke": "Scheduled for revoking",
  "set-password": "Given a password",
  "block-download": "Downloads blocked",
  "set-role": "Lowered",
  narrow: "Limited to named people",
  "make-link": "New link for named people",
  "drop-recipient": "Somebody removed from a link",
  "leave-group": "Somebody removed from a group",
  "stop-inheriting": "No longer inherits",
  "hand-over": "Handed over",
  "set-start": "Given a start",
  "set-words": "Given other words",
  "move-intake": "Moved to a folder of its own",
  "new-link": "Link made",
  "new-grant": "Right given",
  "put-back": "Restored as it was",
  "remake-link": "New link made",
  "join-group": "Somebody added back to a group",
  inherit: "Inherits again",
  "drop-order": "Standing order cancelled",
};
