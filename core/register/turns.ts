import type { Estate } from "../estate/estate";
import type { RuleSet } from "../rules/findings";
import type { Judged } from "../rules/judged";
import { type RuleId, ruleOf } from "../rules/list";
import { RISK_ENDS_SOON } from "../rules/risk";
import { DAY, NEVER, type Seconds } from "../time/instant";

/** The lengths of time by which some rules judge. */
export interface Terms {
  /** How long before its end a share may turn. */
  beforeEnd: Seconds[];
  /** How long after its last use, or after it was made, a share may turn. */
  afterUse: Seconds[];
  /** How long after it was made a share may turn that nobody has confirmed. */
  afterMade: Seconds[];
  /** Instants at which engagements are over. */
  over: Seconds[];
}

export function termsOf(rules: RuleSet, estate: Estate): Terms {
  const terms: Terms = { beforeEnd: [0, RISK_ENDS_SOON], afterUse: [], afterMade: [], over: [] };
  for (const [id, parameters] of Object.entries(rules)) {
    const definition = ruleOf(id as RuleId);
    if (definition.items || !definition.turn) continue;
    const { turn } = definition;
    const length = (slot: string) => (parameters[slot] as number) * DAY;
    if ("beforeEnd" in turn) terms.beforeEnd.push(length(turn.beforeEnd));
    else if ("afterUse" in turn) terms.afterUse.push(length(turn.afterUse));
    else if ("afterMade" in turn) terms.afterMade.push(length(turn.afterMade));
    else for (const { ends } of estate.engagements) terms.over.push(Math.ceil(ends + length(turn.afterWork)));
  }
  return terms;
}

/**
 * The next instant after t at which what is said of a share may turn with nobody acting: it opens, ends, or
 * comes within the days that a rule or its risk counts. It may come too early, never too late.
 */
export function nextTurn({ share }: Judged, t: Seconds, { beforeEnd, afterUse, afterMade, over }: Terms): Seconds {
  const { opens, revoked, ends, lastUsed, made, confirmed } = share;
  const sooner = (next: Seconds, at: Seconds) => (at > t && at < next ? at : next);
  let next = sooner(sooner(NEVER, opens), revoked);
  if (ends !== NEVER) for (const length of beforeEnd) next = sooner(next, Math.ceil(ends - length));
  // "More than so long before" turns a second after that time is full.
  for (const length of afterUse) next = sooner(next, Math.floor((lastUsed ?? made) + length) + 1);
  for (const length of afterMade) next = sooner(next, Math.floor(made + length) + 1);
  if (confirmed !== null) next = sooner(next, confirmed);
  if (share.expires !== NEVER) next = sooner(next, share.expires);
  for (const at of over) next = sooner(next, at);
  return next;
}
