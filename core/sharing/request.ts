import type { RuleId } from "../rules/list";
import type { Wish } from "./wish";

/**
 * `asked`: waits for an administrator. `due`: approved, and made when it is to start. `making`: in a docket that is being
 * carried out, or waits for a second pair of eyes. `failed`: its store didn't make it as it should.
 */
export const REQUEST_STATES = ["asked", "due", "making", "made", "failed", "refused", "withdrawn"] as const;
export type RequestState = (typeof REQUEST_STATES)[number];

/** Leave to break a rule, given together with the share that breaks it. */
export interface GivenWaiver {
  rule: RuleId;
  reason: string;
  until: string;
}

/** Somebody's wish to share, and what has become of it. */
export interface ShareRequest {
  id: string;
  wish: Wish;
  itemName: string;
  why: string;
  askedBy: string;
  askedAt: number;
  state: RequestState;
  waivers: GivenWaiver[];
  /** What whoever refused it says, or what went wrong. */
  word: string | null;
  decidedBy: string | null;
  decidedAt: number | null;
  /** When it is made, where that is not at once. */
  dueAt: number | null;
  docketId: string | null;
  /** Ids of the shares that were made. */
  shares: string[];
}

export const STATE_WORDS: Record<RequestState, string> = {
  asked: "Waiting for an administrator",
  due: "Approved, not made yet",
  making: "Being made",
  made: "Made",
  failed: "Not made",
  refused: "Refused",
  withdrawn: "Withdrawn",
};
