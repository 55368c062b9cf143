/**
 * The state of a line of a round. `open` still needs a decision; the others are final once the round has closed
 * or the decision has been carried out.
 */
export const LINE_STATES = ["open", "kept", "tightened", "ended", "gone", "lapsed"] as const;
export type LineState = (typeof LINE_STATES)[number];

/** What somebody decides about a line. */
export const DECISIONS = ["keep", "tighten", "end"] as const;
export type LineDecision = (typeof DECISIONS)[number];
const DECIDED: Record<LineDecision, LineState> = { keep: "kept", tighten: "tightened", end: "ended" };

/** What happens to a line: it is decided, its share ends for another reason, or the round closes. */
export type LineEvent = { decision: LineDecision } | "share-over" | "close";

/** What the next state of a line depends on. */
interface LineNow {
  state: LineState;
  /** Whether the decision is being carried out, or has been. */
  isCarriedOut: boolean;
  /** Whether its round has closed. */
  isClosed: boolean;
}

/**
 * The state of a line after something has happened to it; null where that can no longer happen and it stays as it is.
 * A decision can be changed until the round closes or it is carried out. If a share ends for another reason,
 * its line is gone, unless the decision itself ended it.
 */
export function lineAfter({ state, isCarriedOut, isClosed }: LineNow, event: LineEvent): LineState | null {
  const isFinal = isCarriedOut || isClosed || state === "gone" || state === "lapsed";
  if (isFinal) return null;
  if (event === "close") return state === "open" ? "lapsed" : null;
  if (event === "share-over") return "gone";
  return DECIDED[event.decision];
}

/** How often a line may be passed on. */
export const MOST_PASSED_ON = 2;

/**
 * Why a line can't be passed on to somebody, or null. A line that is passed on stays open.
 * @param before people who have had it already, by index
 * @param audience people whom the share names
 */
export function whyNotPassedOn(
  to: { person: number; isActiveInsider: boolean },
  before: readonly number[],
  audience: ReadonlySet<number>,
): string | null {
  if (before.length >= MOST_PASSED_ON) return `It has been passed on ${MOST_PASSED_ON} times: decide it, or leave it.`;
  if (!to.isActiveInsider) return "They can’t sign in here. Choose a colleague.";
  if (audience.has(to.person))
    return "The share gives them access, and nobody confirms their own. Choose another colleague.";
  if (before.includes(to.person)) return "They have already passed it on. Choose another colleague.";
  return null;
}
