import type { Change } from "./change";

/** `waiting`: put together by a rule, and waits for an administrator. `dropped`: they would not have it. */
export const DOCKET_STATES = ["preparing", "waiting", "applying", "paused", "done", "dropped"] as const;
export type DocketState = (typeof DOCKET_STATES)[number];

/**
 * Who put a docket together: somebody in their tray; a rule that asks or is enforced; an owner; a round; an engagement
 * that is over; a standing order; somebody who shares something; or the monthly clearing of links that are over.
 */
export const DOCKET_ORIGINS = [
  "tray",
  "ask",
  "enforce",
  "owner",
  "round",
  "engagement",
  "order",
  "share",
  "clear",
  "undo",
] as const;
export type DocketOrigin = (typeof DOCKET_ORIGINS)[number];

/**
 * `set-aside`: can't be done in its store. `failed`: was tried, and can be tried again. `by-hand`: its store is known
 * from a file only, and somebody has to do it there themselves.
 */
export const CHANGE_STATES = ["staged", "sending", "done", "failed", "set-aside", "by-hand"] as const;
export type ChangeState = (typeof CHANGE_STATES)[number];

/** A change with its subject as it was when the change was staged. */
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
  /** How many of those done couldn't be checked. */
  unchecked: number;
  /** Stores that hold it up, each with the reason and since when. */
  held: HeldStore[];
}

export interface HeldStore {
  store: string;
  why: string;
  since: string;
}

/** A docket is closed when each change is done and checked, or set aside with a reason; somebody may do some by hand. */
export function isClosed({ state, counts, unchecked }: DocketProgress): boolean {
  return state === "done" && counts.failed + counts["by-hand"] + unchecked === 0;
}
