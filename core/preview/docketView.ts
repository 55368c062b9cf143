import type { ChangeState, DocketOrigin, DocketProgress, StagedChange } from "../changes/states";
import type { Preview } from "./preview";

/** What is in somebody's tray, and what it would do. */
export interface TrayView {
  docketId: string | null;
  changes: StagedChange[];
  preview: Preview | null;
  /** Identifies exactly the changes that are shown; null where there are none. */
  digest: string | null;
  /** A suggested name, from the query that found its shares. */
  name: string | null;
  /** Whether it can only be applied with a reason. */
  needsReason: boolean;
  /** The docket that is being applied or is paused, no matter who started it. */
  running: DocketProgress | null;
}

/** What came of one change. */
export interface Receipt extends StagedChange {
  state: ChangeState;
  tries: number;
  sentAt: string | null;
  answeredAt: string | null;
  answer: string | null;
  probe: string | null;
  isChecked: boolean;
  /** What was sent, and the records that came back, as JSON. */
  request: string;
  response: string | null;
  /** The docket that undoes it, and whether it has been applied. */
  undone: { docketId: string; isOver: boolean } | null;
  /** Token for showing the passphrase that the change set; null where there is none to show. */
  passphrase: string | null;
  /** Who needs the address of the new link, or passes it on. */
  tell: string[];
}

/** A docket on its own page. */
export interface DocketView {
  progress: DocketProgress;
  origin: DocketOrigin;
  madeBy: string;
  /** Its name or, where nobody made it by hand, its purpose; and the reason it was applied. */
  name: string | null;
  reason: string | null;
  /** Whether it can only be applied with a reason. */
  needsReason: boolean;
  /** The docket that it undoes. */
  undoes: string | null;
  /** Who requested it and why it needs approval, or who approved it. */
  askedBy: string | null;
  reasons: string[];
  approvedBy: string | null;
  /** How many passphrases that it set have still to be handed over. */
  passphrases: number;
  /** How many match what was asked for; `receipts` has some of them. */
  found: number;
  receipts: Receipt[];
  /** While it waits: what it would do, and what identifies exactly its changes. */
  preview: Preview | null;
  digest: string | null;
}
