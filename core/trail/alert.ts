import type { Seconds } from "../time/instant";
import type { AlertState } from "./watch";
import type { Severity } from "../rules/severity";

/** Something that a watch found, and what has become of it. */
export interface Alert {
  id: number;
  /** Null where the watch was dropped. */
  watch: string | null;
  severity: Severity;
  state: AlertState;
  firstAt: Seconds;
  lastAt: Seconds;
  /** How many events belong to it. */
  count: number;
  shareId: string | null;
  itemId: string | null;
  /** Who did it, or who has not done it, by address. */
  person: string | null;
  words: string;
  assignedTo: string | null;
  settledBy: string | null;
  settledAt: string | null;
  note: string | null;
}
