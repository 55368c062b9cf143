import { z } from "zod";
import { countWords } from "../text/words";
import type { Preview } from "./preview";

/** Which dockets another administrator has to approve, and whether each needs a reason. */
export const approvalSchema = z.object({
  /** Dockets with more changes than this; null for none. */
  above: z.int().min(0).max(1_000_000).nullable(),
  /** Dockets that take access from our own people. */
  insiders: z.boolean(),
  /** Whether a docket can only be applied with a reason; left out where nobody has set this. */
  reason: z.boolean().optional(),
});
export type ApprovalSetting = z.infer<typeof approvalSchema>;

/** Whether a setting lets through anything that another holds back. */
export function isLooser(setting: ApprovalSetting, than: ApprovalSetting): boolean {
  const most = ({ above }: ApprovalSetting) => above ?? Infinity;
  return (
    most(setting) > most(than) || (than.insiders && !setting.insiders) || (than.reason === true && !setting.reason)
  );
}

/** The current setting, and a proposed one that another administrator has to agree to. */
export const approvalViewSchema = z.object({
  setting: approvalSchema,
  proposed: z.object({ setting: approvalSchema, by: z.string(), at: z.string() }).nullable(),
});
export type ApprovalView = z.infer<typeof approvalViewSchema>;

/** Why a docket needs approval, in words; empty where it doesn't. */
export function approvalReasons(
  { above, insiders }: ApprovalSetting,
  count: number,
  { careful }: Pick<Preview, "careful">,
): string[] {
  const reasons: string[] = [];
  if (above !== null && count > above) reasons.push(`it has more than ${countWords(above, "change")}`);
  if (insiders && careful.insiders.length > 0)
    reasons.push(`${countWords(careful.insiders.length, "change")} would take access from our own people`);
  return reasons;
}
