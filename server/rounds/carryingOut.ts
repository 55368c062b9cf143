import type { Change } from "@/core/changes/change";
import { decisionSchema } from "@/core/rounds/decision";
import type { PlannedChange } from "@/core/changes/plan";
import { approvalSetting, reasonsFor } from "../dockets/approval";
import { planned } from "../dockets/changes";
import type { Asking } from "../engine/client";
import type { Unsettled } from "./lines";

/** A decided line with the changes that carry it out; none if nothing has to change. */
export interface Outcome {
  line: Unsettled;
  changes: Change[];
}

/** The changes that carry out the decisions on some lines; lines whose decision can't be carried out any more are left out. */
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

/** Plans for some changes; those already in effect, or about something gone, need none. */
export async function plansFor(app: Asking, changes: readonly Change[]): Promise<PlannedChange[][]> {
  const plans = await planned(app, changes);
  return plans.filter((plan) => plan !== null && plan.length > 0) as PlannedChange[][];
}

/** Whether a docket of these changes waits for an administrator. */
export async function needsApproval(app: Asking, changes: Change[]): Promise<boolean> {
  return changes.length > 0 && (await reasonsFor(app, await approvalSetting(app.db), changes)).length > 0;
}
