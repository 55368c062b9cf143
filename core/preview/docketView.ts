import type { ChangeState, DocketOrigin, DocketProgress, StagedChange } from "../changes/states";
import type { Preview } from "./preview";

/** What is in somebody's tray, with what it would do. */
export interface TrayView {
  docketId: string | null;
  changes: StagedChange[];
  preview: Preview | null;
  /** By which the changes that are shown are told from any others; null where there are none. */
  digest: string | null;
  /** What it may be called: after the query that found what is in it. */
  name: string | null;
  /** Whether it can only be applied with a reason. */
  needsReason: boolean;
  /** A docket that is being applied or is paused, whoever began it. */
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
  /** The docket that takes it back, and whether that has been applied. */
  undone: { docketId: string; isOver: boolean } | null;
  /** By which a passphrase is asked for that the change set; null where none waits to be shown. */
  passphrase: string | null;
  /** Who has to be sent the address of the link that was made, or passes it on. */
  tell: string[];
}

/** A docket on its own page. */
export interface DocketView {
  progress: DocketProgress;
  origin: DocketOrigin;
  madeBy: string;
  /** What it is called or, where nobody put it together by hand, what it is for; and why it was applied. */
  name: string | null;
  reason: string | null;
  /** Whether it can only be applied with a reason. */
  needsReason: boolean;
  /** The docket that it undoes. */
  undoes: string | null;
  /** Who asked for it, and why another administrator has to approve it; or who has done so. */
  askedBy: string | null;
  reasons: string[];
  approvedBy: string | null;
  /** How many passphrases that it set wait to be handed over. */
  passphrases: number;
  /** How many there are of those asked for; `receipts` are some of them. */
  found: number;
  receipts: Receipt[];
  /** What it would do, as long as it waits, and by what its changes are told from any others. */
  preview: Preview | null;
  digest: string | null;
}
