import type { Change } from "./change";
import type { Preview } from "./preview";

/** `waiting`: put together by a rule, and waits for an administrator. `dropped`: they would not have it. */
export const DOCKET_STATES = ["preparing", "waiting", "applying", "paused", "done", "dropped"] as const;
export type DocketState = (typeof DOCKET_STATES)[number];

/** Who put a docket together: somebody in their tray, a rule that asks or acts, an owner, a standing order; or it takes another one back. */
export type DocketOrigin = "tray" | "ask" | "act" | "owner" | "order" | "undo";

/**
 * `set-aside`: can't be done in its store. `failed`: was tried, and can be tried again. `by-hand`: its store is known
 * from a file only, and somebody has to do it there themselves.
 */
export const CHANGE_STATES = ["staged", "sending", "done", "failed", "set-aside", "by-hand"] as const;
export type ChangeState = (typeof CHANGE_STATES)[number];

/** A change with what it is about as that was when it was staged. */
export interface StagedChange {
  /** What the change is about; a docket has one change about each. */
  subject: string;
  itemName: string;
  audience: string;
  change: Change;
}

/** How far a docket is. */
export interface DocketProgress {
  docketId: string;
  state: DocketState;
  counts: Record<ChangeState, number>;
  /** How many of those done could not be seen to have taken. */
  unchecked: number;
}

/** A docket is closed when each change is done and checked, or set aside with a reason; somebody may do some by hand. */
export function isClosed({ state, counts, unchecked }: DocketProgress): boolean {
  return state === "done" && counts.failed + counts["by-hand"] + unchecked === 0;
}

/** What is in somebody's tray, with what it would do. */
export interface TrayView {
  docketId: string | null;
  changes: StagedChange[];
  preview: Preview | null;
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
}

/** A docket on its own page. */
export interface DocketView {
  progress: DocketProgress;
  origin: DocketOrigin;
  madeBy: string;
  /** What it is for, where nobody put it together by hand. */
  words: string | null;
  /** The docket that it takes back. */
  takesBack: string | null;
  /** Who asked for it, and why another administrator has to approve it; or who has done so. */
  askedBy: string | null;
  reasons: string[];
  approvedBy: string | null;
  /** How many there are of those asked for; `receipts` are some of them. */
  found: number;
  receipts: Receipt[];
  /** What it would do, as long as it waits. */
  preview: Preview | null;
}
