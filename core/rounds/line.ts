/**
 * What becomes of a line of a round. Open is what still needs a decision; all others are final once the round has closed
 * or what was decided has been carried out.
 */
export const LINE_STATES = ["open", "kept", "tightened", "ended", "gone", "lapsed"] as const;
export type LineState = (typeof LINE_STATES)[number];

/** What somebody decides about a line. */
export const DECISIONS = ["keep", "tighten", "end"] as const;
export type LineDecision = (typeof DECISIONS)[number];
const DECIDED: Record<LineDecision, LineState> = { keep: "kept", tighten: "tightened", end: "ended" };

/** What happens to a line: it is decided; its share is over by something else; the round closes. */
export type LineEvent = { decision: LineDecision } | "share-over" | "close";

/** A line as far as its next state depends on it. */
interface LineNow {
  state: LineState;
  /** Whether what was decided is being carried out, or has been. */
  isCarriedOut: boolean;
  /** Whether its round has closed. */
  isClosed: boolean;
}

/**
 * The state of a line after something has happened to it; null where that can't happen any more, and it stays as it is.
 * A decision can be changed until the round closes or it is carried out. A share that is over by something else makes
 * its line gone, unless what was decided is itself what ended it.
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
 * Why a line can't be passed on to somebody; null where it can. What was passed on stays open.
 * @param before to whom it was passed on already, by index
 * @param audience whom the share lets in by name
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
