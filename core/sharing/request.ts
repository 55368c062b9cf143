import type { RuleId } from "../rules/list";
import type { Wish } from "./wish";

/**
 * `asked`: waits for an administrator. `due`: approved, and made when it starts. `making`: in a docket that is being
 * applied or waits for approval. `failed`: its store didn't make it as it should.
 */
export const REQUEST_STATES = ["asked", "due", "making", "made", "failed", "refused", "withdrawn"] as const;
export type RequestState = (typeof REQUEST_STATES)[number];

/** A waiver for a rule, given together with the share that breaks it. */
export interface GivenWaiver {
  rule: RuleId;
  reason: string;
  until: string;
}

/** Somebody's request to share, and its outcome. */
export interface ShareRequest {
  id: string;
  wish: Wish;
  itemName: string;
  why: string;
  askedBy: string;
  askedAt: number;
  state: RequestState;
  waivers: GivenWaiver[];
  /** Why it was refused, or what went wrong. */
  word: string | null;
  decidedBy: string | null;
  decidedAt: number | null;
  /** When it will be made, if not at once. */
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
