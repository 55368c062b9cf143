import type { Action, Change } from "./change";
import { seconds } from "../time/instant";
import { lastDayWords } from "../text/words";

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
      return `Only for ${change.addresses.length} named`;
    case "make-link":
      return `New link for ${change.addresses.length}`;
    case "drop-recipient":
      return "Drop from link";
    case "leave-group":
      return "Out of group";
    case "stop-inheriting":
      return "Stop inheriting";
    case "hand-over":
      return "Hand over";
    case "put-back":
      return "Put back";
    case "remake-link":
      return "Link anew";
    case "join-group":
      return "Back into group";
    case "inherit":
      return "Inherit again";
    case "drop-order":
      return "Drop standing order";
  }
}

/** What a change does, whatever its particulars: to stand at the head of many. */
export const ACTION_TITLES: Record<Action, string> = {
  revoke: "Revoked",
  "set-expiry": "Given an end",
  "order-revoke": "To be revoked on a day",
  "set-password": "Given a password",
  "block-download": "Downloads blocked",
  "set-role": "Lowered",
  narrow: "Only for named people now",
  "make-link": "New link for named people",
  "drop-recipient": "Somebody dropped from a link",
  "leave-group": "Somebody out of a group",
  "stop-inheriting": "Inherits nothing any more",
  "hand-over": "Handed over",
  "put-back": "Put back as it was",
  "remake-link": "Link made anew",
  "join-group": "Somebody back into a group",
  inherit: "Inherits again",
  "drop-order": "Standing order dropped",
};
