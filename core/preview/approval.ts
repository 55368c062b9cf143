import { z } from "zod";
import { countWords } from "../text/words";
import type { Preview } from "./preview";

/** Which dockets another administrator has to approve, and whether each needs a reason. */
export const approvalSchema = z.object({
  /** Those of more changes than this; null is none. */
  above: z.int().min(0).max(1_000_000).nullable(),
  /** Dockets that take access from our own people. */
  insiders: z.boolean(),
  /** Whether a docket can only be applied with a reason; left out where nobody has asked for that. */
  reason: z.boolean().optional(),
});
export type ApprovalSetting = z.infer<typeof approvalSchema>;

/** Whether a setting lets anything through that another held back. */
export function isLooser(setting: ApprovalSetting, than: ApprovalSetting): boolean {
  const most = ({ above }: ApprovalSetting) => above ?? Infinity;
  return (
    most(setting) > most(than) || (than.insiders && !setting.insiders) || (than.reason === true && !setting.reason)
  );
}

/** What is set, and what waits until another administrator agrees to it. */
export const approvalViewSchema = z.object({
  setting: approvalSchema,
  proposed: z.object({ setting: approvalSchema, by: z.string(), at: z.string() }).nullable(),
});
export type ApprovalView = z.infer<typeof approvalViewSchema>;

/** Why a docket needs a second pair of eyes, in words; empty where it doesn't. */
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
