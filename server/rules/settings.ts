import type { RuleId } from "@/core/rules/list";
import { isLooser, type RuleSetting } from "@/core/rules/mode";
import { type RuleSettings, settingsFrom } from "@/core/rules/setting";
import { type Db, type Reads, writing } from "../platform/db/open";
import { checkFresh } from "../platform/rights";
import type { Actor } from "../platform/serving";
import { appendWithin } from "../records/ledger/ledger";

/** How every rule is set, or was at an instant. */
export async function ruleSettings(db: Reads, at: string | null = null): Promise<RuleSettings> {
  let query = db.selectFrom("rule_setting").select(["rule", "body"]);
  query =
    at === null
      ? query.where("ended_at", "is", null)
      : query.where("set_at", "<=", at).where((eb) => eb.or([eb("ended_at", "is", null), eb("ended_at", ">", at)]));
  const known: Partial<RuleSettings> = {};
  for (const { rule, body } of await query.execute()) known[rule] = JSON.parse(body);
  return settingsFrom(known);
}

/** One change of a rule: how it was set from then on, and by whom. */
export interface RuleChange {
  setting: RuleSetting;
  by: string;
  at: string;
}

/** Every change of a rule, the newest first. */
export async function ruleHistory(db: Db, rule: RuleId): Promise<RuleChange[]> {
  const rows = await db.selectFrom("rule_setting").selectAll().where("rule", "=", rule).orderBy("id", "desc").execute();
  return rows.map(({ body, set_by, set_at }) => ({ setting: JSON.parse(body), by: set_by, at: set_at }));
}

/**
 * Sets a rule, and puts down in the ledger how it was and how it is.
 * @param by the person who does it: to loosen a rule they must have signed in lately
 */
export async function setRule(db: Db, actor: string, rule: RuleId, setting: RuleSetting, by?: Actor): Promise<void> {
  await writing(db, async (within) => {
    const before = (await ruleSettings(within))[rule];
    if (by && isLooser(setting, before)) checkFresh(by);
    await within
      .updateTable("rule_setting")
      .set({ ended_at: within.clock.text() })
      .where("rule", "=", rule)
      .where("ended_at", "is", null)
      .execute();
    await within
      .insertInto("rule_setting")
      .values({ rule, body: JSON.stringify(setting), set_by: actor, set_at: within.clock.text(), ended_at: null })
      .execute();
    await appendWithin(within, actor, "rule-set", { rule, before, after: setting });
  });
}
