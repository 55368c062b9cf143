import { brokenBy, DEFAULT_RULES, type RuleSet } from "../rules/findings";
import { isOpenLink, type Judged, type Moment } from "../rules/judged";
import type { RuleId } from "../rules/list";
import { byText } from "../text/text";
import { DAY, type Seconds } from "../time/instant";
import { KEPT_DAYS } from "./kept";
import { runningFor } from "./running";

export const SUGGESTIONS = ["keep", "tighten", "end"] as const;

/** What should become of a share, judged from what is known. */
export interface Suggestion {
  suggest: (typeof SUGGESTIONS)[number];
  /** Until when it may stay at most; null where it is to be ended. */
  until: Seconds | null;
  /** The rules that say so, by their ids. */
  because: RuleId[];
}

const OPEN_DAYS = 30;

/** Whoever breaks these has no further business with the share. */
const OVER: readonly RuleId[] = ["party-denied", "engagement-over"];
/** Whoever breaks these doesn't use it; that says little while work with them goes on. */
const IDLE: readonly RuleId[] = ["never-used", "dormant"];

/** What to do with an outside share, as page "Advice" of the design tells. @param days for how long it may stay at most */
export function suggestionFor(
  judged: Judged,
  moment: Moment,
  days = KEPT_DAYS,
  rules: RuleSet = DEFAULT_RULES,
): Suggestion {
  const { estate, t } = moment;
  const { share } = judged;
  const broken = brokenBy(judged, moment, rules).sort(byText);
  const running = [...runningFor(estate, share, t)];
  const ending = broken.filter((rule) => OVER.includes(rule) || (running.length === 0 && IDLE.includes(rule)));
  if (ending.length > 0) return { suggest: "end", until: null, because: ending };
  const until = Math.min(
    t + days * DAY,
    share.ends,
    ...(isOpenLink(judged) ? [t + OPEN_DAYS * DAY] : []),
    ...(running.length > 0 ? [Math.max(...running.map(({ ends }) => ends))] : []),
  );
  return { suggest: broken.length > 0 ? "tighten" : "keep", until, because: broken };
}
