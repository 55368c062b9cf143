import type { Change } from "../changes/change";
import { planOf } from "../changes/plan";
import { verdictOn } from "../changes/verdict";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import type { Seconds } from "../time/instant";
import { DEFAULT_RULES, type RuleSet } from "./findings";
import { judgeShare, momentOf } from "./judging";
import { type RuleId, ruleOf } from "./list";
import type { Wanted } from "./wanted";

/** Something that would end a finding: the changes to stage, or why this store can't do it. */
export interface Remedy {
  words: string;
  /** In the order in which they have to be done; empty where it can't be done. */
  changes: Change[];
  /** What whoever stages it may choose otherwise: another end than the one that stands in it; or has to: for whom; or what is done by a round. */
  asks: "end" | "addresses" | "round" | null;
  why: string | null;
}

/** Remedies for a finding on a share, the mildest first; the last is always to end the share. */
export function remediesFor(
  rule: RuleId,
  estate: Estate,
  share: Share,
  t: Seconds,
  rules: RuleSet = DEFAULT_RULES,
): Remedy[] {
  const moment = momentOf(estate, t);
  const definition = ruleOf(rule);
  const milder = definition.items
    ? []
    : (definition.remedies?.(judgeShare(moment, share), moment, rules[rule] ?? {}) ?? []);
  const end: Wanted = { words: endWords(share), changes: [{ action: "revoke", shareId: share.id }] };
  return [...milder, end].map((wanted) => planned(wanted, estate, t));
}

/** Remedies for a finding on an item: on the shares that cause it. */
export function itemRemedies(
  rule: RuleId,
  estate: Estate,
  position: number,
  t: Seconds,
  rules: RuleSet = DEFAULT_RULES,
): Remedy[] {
  const definition = ruleOf(rule);
  if (!definition.items) return [];
  const wanted = definition.itemRemedies(position, momentOf(estate, t), rules[rule] ?? {});
  return wanted.map((one) => planned(one, estate, t));
}

/** The first that can be applied as it is, with nothing left to fill in. */
export function firstRemedy(remedies: readonly Remedy[]): Remedy | undefined {
  return remedies.find(({ why, asks }) => why === null && asks !== "addresses" && asks !== "round");
}

function endWords({ isLink }: Share): string {
  return isLink ? "Revoke the link" : "Revoke the grant";
}

/** What a store can do of what is wanted, with what has to be done before; or why it can't. */
function planned(wanted: Wanted, estate: Estate, t: Seconds): Remedy {
  const { words, asks = null, orElse } = wanted;
  const changes = wanted.changes.flatMap((change) => planOf(estate, change));
  const refused = changes.map((change) => verdictOn(estate, change, t, changes)).find((verdict) => !verdict.can);
  const isAsWanted = refused === undefined && changes[0]?.action === wanted.changes[0]?.action;
  if (orElse && !isAsWanted) return planned(orElse, estate, t);
  if (refused && !refused.can) return { words, changes: [], asks, why: `${refused.why} ${refused.instead}` };
  return { words, changes, asks, why: null };
}
