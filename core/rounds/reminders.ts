import { DAY, type Seconds } from "../time/instant";

/** When somebody who decides is written to; and when their manager is. */
export const ROUND_STAGES = ["opening", "half", "three-days", "one-day", "now", "manager"] as const;
export type RoundStage = (typeof ROUND_STAGES)[number];

/** How long before the close managers of those who are late get their copy. */
export const MANAGERS_BEFORE_S: Seconds = 3 * DAY;

/**
 * What is due by now to somebody who still has lines to decide: when it opens, at half time, three days and one day
 * before it closes. Of several that became due at once, as in a short round, the last counts for all.
 * @returns null where nothing is due yet that they haven't had
 */
export function stageDue(
  { opened, closes }: { opened: Seconds; closes: Seconds },
  had: ReadonlySet<RoundStage>,
  now: Seconds,
): RoundStage | null {
  const due: [RoundStage, Seconds][] = [
    ["opening", opened],
    ["half", opened + (closes - opened) / 2],
    ["three-days", closes - 3 * DAY],
    ["one-day", closes - DAY],
  ];
  // A short round has no three days before its close.
  const reached = due.filter(([stage, at]) => at <= now && (stage === "opening" || at > opened));
  reached.sort(([, a], [, b]) => a - b);
  const last = reached.at(-1)?.[0] ?? null;
  return last !== null && now < closes && !had.has(last) ? last : null;
}
