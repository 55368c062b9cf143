import type { Estate } from "../estate/estate";
import type { RuleSet } from "../rules/findings";
import type { Judged } from "../rules/judged";
import { type RuleId, ruleOf } from "../rules/list";
import { RISK_ENDS_SOON } from "../rules/risk";
import { ALWAYS, DAY, NEVER, type Seconds } from "../time/instant";

/** The periods that some rules measure by. */
export interface Terms {
  /** How long before its end a share's facts may change. */
  beforeEnd: Seconds[];
  /** How long after its last use, or after it was made, a share's facts may change. */
  afterUse: Seconds[];
  /** How long after it was made the facts of a share that nobody has confirmed may change. */
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

/** Between two turns nothing about a share changes unless somebody acts. */
export interface Turns {
  /** The latest turn that isn't after the instant; ALWAYS where there is none. */
  since: Seconds;
  /** The next one after it; NEVER where there is none. */
  next: Seconds;
}

/**
 * The instants around t at which facts of a share may change with nobody acting: it opens, ends, or comes within
 * the days that a rule or its risk counts. They may be earlier than necessary, never later.
 */
export function turnsAround({ share }: Judged, t: Seconds, { beforeEnd, afterUse, afterMade, over }: Terms): Turns {
  const { opens, revoked, ends, expires, lastUsed, made, confirmed } = share;
  const turns: Turns = { since: ALWAYS, next: NEVER };
  addTurn(turns, t, opens);
  addTurn(turns, t, revoked);
  addTurn(turns, t, expires);
  if (ends !== NEVER) for (const length of beforeEnd) addTurn(turns, t, Math.ceil(ends - length));
  // "More than so long before" turns a second after that time is full.
  for (const length of afterUse) addTurn(turns, t, Math.floor((lastUsed ?? made) + length) + 1);
  for (const length of afterMade) addTurn(turns, t, Math.floor(made + length) + 1);
  if (confirmed !== null) addTurn(turns, t, confirmed);
  for (const at of over) addTurn(turns, t, at);
  return turns;
}

/** Narrows the turns around t to an instant, where that lies between them. */
export function addTurn(turns: Turns, t: Seconds, at: Seconds) {
  if (at > t) turns.next = Math.min(turns.next, at);
  else turns.since = Math.max(turns.since, at);
}
