import type { Change } from "@/core/changes/change";
import { grouped } from "@/core/text/grouped";
import { countWords } from "@/core/text/words";
import type { Breach } from "@/core/rules/demand";
import { firstRemedy } from "@/core/rules/remedies";
import { RULES, type RuleId } from "@/core/rules/list";
import { type Db, writing } from "../platform/db/open";
import type { PlannedChange } from "@/core/changes/plan";
import { planned } from "../dockets/changes";
import { approvalSetting, reasonsFor } from "../dockets/approval";
import { run } from "../dockets/executor";
import { beginApplying, openDocket } from "../dockets/lifecycle";
import { ITSELF } from "../dockets/standingOrders";
import { enforcingStopped, leftThisHour, raiseCap } from "./enforcing";
import { type Demand, keyOf, openDemands } from "./demands";
import { ruleSettings } from "./settings";
import type { Carrying } from "../dockets/carrying";

/** A demand whose grace is over, with what ends the finding. */
interface Due {
  demand: Demand;
  changes: Change[];
}

/**
 * Puts findings past their grace into dockets: one that waits for an administrator where the rule asks, one that is
 * carried out where it is enforced. What has no remedy that can be done as it stands stays open, and on the Desk.
 * @returns how many alerts were raised
 */
export async function takeOverdue(app: Carrying, breaches: ReadonlyMap<string, Breach>): Promise<number> {
  const settings = await ruleSettings(app.db);
  let alerts = 0;
  for (const [rule, due] of grouped(await overdue(app.db, breaches), ({ demand }) => demand.rule)) {
    const { isOn, mode } = settings[rule];
    if (!isOn || mode === "observe") continue;
    if (mode === "ask") await docketOf(app, rule, due, "ask");
    else alerts += await enforce(app, rule, due);
  }
  return alerts;
}

async function overdue(db: Db, breaches: ReadonlyMap<string, Breach>): Promise<Due[]> {
  const now = db.clock.seconds();
  return (await openDemands(db))
    .filter(({ state, due_at }) => state === "asked" && due_at! <= now)
    .map((demand) => {
      const breach = breaches.get(keyOf(demand.rule, demand.subject));
      return { demand, changes: (breach && firstRemedy(breach.remedies)?.changes) ?? [] };
    })
    .filter(({ changes }) => changes.length > 0);
}

/** Enforces a rule on as many as it may within the hour; the rest waits for the next look, and an alert says so. */
async function enforce(app: Carrying, rule: RuleId, due: readonly Due[]): Promise<number> {
  if (await enforcingStopped(app.db)) return 0;
  let left = await leftThisHour(app.db);
  const now = due.filter(({ changes }) => (left -= changes.length) >= 0);
  if (now.length > 0) await docketOf(app, rule, now, "enforce");
  const waiting = due.length - now.length;
  return waiting > 0 && (await raiseCap(app.db, rule, waiting)) ? 1 : 0;
}

/** The docket and what it takes the demands out of are kept together: none is taken twice, whenever the process ends. */
async function docketOf(app: Carrying, rule: RuleId, due: readonly Due[], mode: "ask" | "enforce"): Promise<void> {
  const plans = await Promise.all(due.map(({ changes }) => planned(app, changes)));
  const changes = due.flatMap((one) => one.changes);
  const reasons = mode === "enforce" ? await reasonsFor(app, await approvalSetting(app.db), changes) : [];
  const waits = mode === "ask" || reasons.length > 0;
  const docketId = await writing(app.db, async (within) => {
    const ids = due.map(({ demand }) => demand.id);
    const open = await within
      .selectFrom("demand")
      .select("id")
      .where("id", "in", ids)
      .where("state", "=", "asked")
      .execute();
    if (open.length < ids.length) return null;
    const words = `${RULES[rule].title}: grace period over for ${countWords(due.length, "finding")}`;
    const id = await openDocket(within, { madeBy: ITSELF, origin: mode, words, plans: wholePlans(plans) });
    await within
      .updateTable("demand")
      .set({ state: "docketed", docket_id: id, answered_at: within.clock.seconds() })
      .where("id", "in", ids)
      .execute();
    return waits || !(await beginApplying(within, id, ITSELF)) ? null : id;
  });
  if (docketId) run(app, docketId);
}

function wholePlans(plans: readonly (PlannedChange[] | null)[][]): PlannedChange[][] {
  return plans.flat().filter((plan) => plan !== null);
}
