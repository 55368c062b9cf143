import type { Seconds } from "../time/instant";
import type { RuleId } from "./list";

/** Permission for a share to break a rule from one instant up to another. It ends by itself. */
export interface Waiver {
  shareId: string;
  rule: RuleId;
  until: Seconds;
}

/** Which of the rules that a share breaks are waived at t. */
export function waivedAmong(broken: readonly RuleId[], waivers: readonly Waiver[], t: Seconds): RuleId[] {
  if (waivers.length === 0) return [];
  return broken.filter((rule) => waivers.some((waiver) => waiver.rule === rule && waiver.until > t));
}
