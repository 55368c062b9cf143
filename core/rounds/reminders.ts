import { DAY, type Seconds } from "../time/instant";

/** The occasions for a mail to a decider, and to their manager. */
export const ROUND_STAGES = ["opening", "half", "three-days", "one-day", "now", "manager"] as const;
export type RoundStage = (typeof ROUND_STAGES)[number];

/** How long before the close the managers of late deciders get a copy. */
export const MANAGERS_BEFORE_S: Seconds = 3 * DAY;

/**
 * Which mail is due to somebody with lines to decide: when the round opens, at half time, three days and one day
 * before it closes. If several are due at once, as in a short round, only the last is sent.
 * @returns null where they have had everything that is due
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
