import type { RuleId } from "./list";
import type { RuleSetting } from "./mode";
import type { Trial } from "./trial";

/** A rule in the list: its settings, how many break it without a waiver and with one, and for how many somebody was asked. */
export interface RuleLine extends RuleSetting {
  id: RuleId;
  falls: number;
  waived: number;
  asked: number;
}

export interface RulesView {
  rules: RuleLine[];
  /** Who stopped all enforcement; null where nobody has. */
  stopped: { by: string; at: string } | null;
  /** How many changes rules may still make by themselves this hour. */
  leftThisHour: number;
}

export type RuleTrial = Trial;
