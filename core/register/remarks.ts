import type { RuleId } from "../rules/list";

/** What somebody has written on a share. */
export interface Note {
  shareId: string;
  author: string;
  at: string;
  text: string;
}

/** A waiver, as it is shown. */
export interface WaiverView {
  id: number;
  shareId: string;
  rule: RuleId;
  reason: string;
  givenBy: string;
  givenAt: string;
  /** When it ends, or was ended. */
  ends: string;
  isOver: boolean;
}

/** A waiver in the list of all of them. */
export interface WaiverLine extends WaiverView {
  /** Null where its share has gone. */
  itemName: string | null;
  place: string;
}
