import type { Change } from "@/core/dockets/change";
import { seconds } from "@/core/time/instant";
import { dayWords } from "./words";

/** A change in a few words, to stand before what it is about. */
export function changeWords(change: Change): string {
  switch (change.action) {
    case "revoke":
      return "Revoke";
    case "set-expiry":
      return `End ${dayWords(seconds(change.expiresAt))}`;
    case "drop-recipient":
      return "Drop from link";
    case "leave-group":
      return "Out of group";
    case "stop-inheriting":
      return "Stop inheriting";
  }
}
