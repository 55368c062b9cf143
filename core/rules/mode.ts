/** `observe` counts, `ask` tells the owner and then waits for an administrator, `enforce` then applies its docket itself. */
export const MODES = ["observe", "ask", "enforce"] as const;
export type Mode = (typeof MODES)[number];

/** How a rule is set. */
export interface RuleSetting {
  isOn: boolean;
  mode: Mode;
  /** How long an owner has to answer. */
  graceDays: number;
  /** Only this many owners are asked for now; the others wait until the limit is removed. */
  pilot?: number;
  /** With its scope and its severity. */
  parameters: Record<string, unknown>;
}

/** Whether a rule with new settings allows something, or allows it for longer, than it did before. */
export function isLooser(after: RuleSetting, before: RuleSetting): boolean {
  if (!before.isOn) return false;
  if (!after.isOn || after.graceDays > before.graceDays) return true;
  if ((after.pilot ?? Infinity) < (before.pilot ?? Infinity)) return true;
  if (MODES.indexOf(after.mode) < MODES.indexOf(before.mode)) return true;
  return JSON.stringify(after.parameters) !== JSON.stringify(before.parameters);
}
