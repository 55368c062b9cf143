import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import type { DayWords } from "../text/words";
import type { Seconds } from "../time/instant";
import { DEFAULT_RULES, type RuleSet } from "./findings";
import { judgeShare, momentOf } from "./judging";
import { type RuleId, ruleOf } from "./list";

/** Why a share breaks a rule, in words with the figures that make it so. */
export function reasonFor(
  rule: RuleId,
  estate: Estate,
  share: Share,
  t: Seconds,
  rules: RuleSet = DEFAULT_RULES,
  days?: DayWords,
): string {
  const definition = ruleOf(rule);
  if (definition.items) return "This is said of the item, not of one share.";
  const moment = momentOf(estate, t, days);
  return definition.reason(judgeShare(moment, share), moment, rules[rule] ?? {});
}
