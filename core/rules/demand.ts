import type { Remedy } from "./remedies";
import type { RuleId } from "./list";

/**
 * `found`: nobody has been told yet. `asked`: the days of grace run. `kept`: the owner gave a reason, and it is waived.
 * `handled`: they tightened or ended it. `docketed`: the grace is over, and a docket has it. `gone`: the rule isn't broken any more.
 */
export const DEMAND_STATES = ["found", "asked", "kept", "handled", "docketed", "gone"] as const;
export type DemandState = (typeof DEMAND_STATES)[number];

/** A share or an item that breaks a rule without a waiver, with who answers for it and what would end the finding. */
export interface Breach {
  rule: RuleId;
  /** Id of the share, or of the item where the rule is on items. */
  subject: string;
  shareId: string | null;
  itemName: string;
  place: string[];
  storeName: string;
  audience: string;
  /** What the share does, in a sentence; empty for an item. */
  sentence: string;
  lastUsed: number | null;
  reason: string;
  /** Their address; null where nobody answers for it any more. */
  owner: string | null;
  ownerName: string | null;
  remedies: Remedy[];
}
