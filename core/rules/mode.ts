/** `observe` counts, `ask` tells the owner and then waits for an administrator, `enforce` then applies its docket itself. */
export const MODES = ["observe", "ask", "enforce"] as const;
export type Mode = (typeof MODES)[number];

/** How a rule is set. */
export interface RuleSetting {
  isOn: boolean;
  mode: Mode;
  /** How long an owner has to answer. */
  graceDays: number;
  /** With its scope and its severity. */
  parameters: Record<string, unknown>;
}
