import { z } from "zod";
import type { RuleSet } from "./findings";
import { standardOf } from "./findings";
import { MODES, type RuleSetting } from "./mode";
import { RULE_IDS, type RuleId, ruleOf } from "./list";

export type RuleSettings = Record<RuleId, RuleSetting>;

/** How a rule is set, whichever it is: its parameters aren't checked here. */
export const ruleSettingSchema = z.strictObject({
  isOn: z.boolean(),
  mode: z.enum(MODES),
  graceDays: z.int("must be a whole number of days").min(1, "must be 1 to 90 days").max(90, "must be 1 to 90 days"),
  pilot: z
    .int("must be a whole number of owners")
    .min(1, "must be 1 to 1,000 owners")
    .max(1_000, "must be 1 to 1,000 owners")
    .optional(),
  parameters: z.record(z.string(), z.unknown()),
});

/**
 * Reads a rule's new settings.
 * @throws {z.ZodError} naming the slot that is out of range
 */
export function readSetting(rule: RuleId, value: unknown): RuleSetting {
  const setting = ruleSettingSchema.parse(value);
  const parsed = z.object({ parameters: ruleOf(rule).parameters }).parse({ parameters: setting.parameters });
  return { ...setting, parameters: parsed.parameters };
}

const STANDARD_GRACE_DAYS = 14;

/** A rule's default settings. */
export function standardSetting(rule: RuleId): RuleSetting {
  const isOn = !ruleOf(rule).isExtra;
  return { isOn, mode: "observe", graceDays: STANDARD_GRACE_DAYS, parameters: standardOf(rule) };
}

/** Every rule's setting, given those that somebody has set. */
export function settingsFrom(known: Partial<RuleSettings>): RuleSettings {
  return Object.fromEntries(RULE_IDS.map((id) => [id, known[id] ?? standardSetting(id)])) as RuleSettings;
}

/** The rules that run. */
export function ruleSetOf(settings: RuleSettings): RuleSet {
  return Object.fromEntries(
    RULE_IDS.filter((id) => settings[id].isOn).map((id) => [id, settings[id].parameters]),
  ) as RuleSet;
}
