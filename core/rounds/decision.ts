import { z } from "zod";
import type { Change, ShareChange } from "../changes/change";
import { holdsAlready } from "../changes/holds";
import { verdictOn } from "../changes/verdict";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { writtenLines } from "../text/written";
import { DAY, seconds, type Seconds } from "../time/instant";
import type { RoundAsked } from "./round";
import { endingOn, tighteningsOf } from "./tightenings";
import type { RuleId } from "../rules/list";

const instant = z.iso.datetime({ precision: 0, error: "until: must be a time such as 2026-12-12T17:00:00Z" });

/** What somebody decides about a line: it may stay until a day, is tightened in one of the possible ways, or ended. */
export const decisionSchema = z.discriminatedUnion("decision", [
  z.strictObject({
    decision: z.literal("keep"),
    until: instant,
    /** Needed where its end is suggested. */
    reason: writtenLines.max(500),
  }),
  z.strictObject({ decision: z.literal("tighten"), way: z.string().max(20) }),
  z.strictObject({ decision: z.literal("end") }),
]);
export type Decision = z.infer<typeof decisionSchema>;

const SHORTEST_REASON = 3;

/**
 * Why a line can't be kept as somebody wants, or null.
 * @param suggested what is suggested for it
 * @param limit for how long it can be kept at most, from now
 */
export function whyNotKept(
  { until, reason }: Extract<Decision, { decision: "keep" }>,
  suggested: string | null,
  limit: Seconds,
  now: Seconds,
): string | null {
  if (seconds(until) <= now) return "Keep until: choose a day in the future.";
  // By whole days, since choosing a day means its last second.
  if (seconds(until) > now + limit + DAY)
    return `Keep until: at most ${Math.round(limit / DAY)} days ahead. It can be kept again then.`;
  if (suggested === "end" && reason.length < SHORTEST_REASON)
    return "Give a reason to keep it: the suggestion is to end it.";
  return null;
}

/** The changes that carry out a decision: none where everything is so already, null where that is no longer possible. */
export function changesOf(
  estate: Estate,
  share: Share,
  broken: readonly RuleId[],
  decision: Decision,
  t: Seconds,
): Change[] | null {
  switch (decision.decision) {
    case "keep":
      return endingOn(estate, share, seconds(decision.until), t);
    case "tighten":
      return tighteningsOf(estate, share, broken, t).find(({ key }) => key === decision.way)?.changes ?? null;
    case "end":
      return [{ action: "revoke", shareId: share.id }];
  }
}

/** The changes for a share that nobody decided about. */
export function undecidedChanges(
  estate: Estate,
  share: Share,
  { undecided, undecidedDays }: Pick<RoundAsked, "undecided" | "undecidedDays">,
  t: Seconds,
): Change[] {
  const { id: shareId } = share;
  switch (undecided) {
    case "stay":
      return [];
    case "end-date":
      return endingOn(estate, share, t + undecidedDays * DAY, t);
    case "end":
      return [{ action: "revoke", shareId }];
    case "lock":
      return locking(estate, share, t);
  }
}

/** No more editing, and no more downloads, as far as the store can. */
function locking(estate: Estate, share: Share, t: Seconds): Change[] {
  const { id: shareId, role } = share;
  const canEdit = role === "edit" || role === "manage";
  const wanted: ShareChange[] = [
    ...(canEdit ? [{ action: "set-role", shareId, role: "view" } as const] : []),
    { action: "block-download", shareId },
  ];
  return wanted.filter((change) => !holdsAlready(share, change, t) && verdictOn(estate, change, t, wanted).can);
}
