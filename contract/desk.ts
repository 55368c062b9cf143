import type { Tightness } from "@/core/register/tightness";
import type { Alert } from "@/core/trail/alert";

/** Something that wants attention, in a sentence, and where it is seen to. */
export interface DeskLine {
  words: string;
  href: string;
  /** What is wrong, against what is merely to be known. */
  isPressing: boolean;
}

/** What the Desk shows, the most urgent first. */
export interface Desk {
  /** When whoever looks did so last; null at the first time. */
  lookedBefore: string | null;
  alerts: Alert[];
  lines: DeskLine[];
  tightness: Tightness[];
}
