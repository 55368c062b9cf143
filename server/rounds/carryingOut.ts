import type { Change } from "@/core/changes/change";
import { decisionSchema } from "@/core/rounds/decision";
import type { PlannedChange } from "@/core/changes/plan";
import { approvalSetting, reasonsFor } from "../dockets/approval";
import { planned } from "../dockets/changes";
import type { Asking } from "../engine/client";
import type { Unsettled } from "./lines";

/** A decided line with what carries it out: nothing where all is so already. */
export interface Outcome {
  line: Unsettled;
  changes: Change[];
}

/** What carries the decisions of some lines out; a line whose decision can't be carried out any more is left out. */
export async function outcomesOf(
  app: Asking,
  lines: readonly Unsettled[],
): Promise<{ done: Outcome[]; not: Unsettled[] }> {
  const decided = lines.map((line) => ({
    shareId: line.share_id,
    decision: decisionSchema.parse(JSON.parse(line.decision!)),
  }));
  const changes = await app.engine.ask("lineChanges", { decided });
  return {
    done: lines.flatMap((line, i) => (changes[i] ? [{ line, changes: changes[i] }] : [])),
    not: lines.filter((_, i) => changes[i] === null),
  };
}

/** The plans for some changes; what is so already, or isn't here any more, needs none. */
export async function plansFor(app: Asking, changes: readonly Change[]): Promise<PlannedChange[][]> {
  const plans = await planned(app, changes);
  return plans.filter((plan) => plan !== null && plan.length > 0) as PlannedChange[][];
}

/** Whether a docket of such changes waits for an administrator. */
export async function needsApproval(app: Asking, changes: Change[]): Promise<boolean> {
  return changes.length > 0 && (await reasonsFor(app, await approvalSetting(app.db), changes)).length > 0;
}
