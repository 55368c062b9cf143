import type { LabelRule } from "@/core/estate/labels";
import { seconds } from "@/core/time/instant";
import { type Db, type Reads, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";

/** A rule that items are to be labelled by. */
export type LabelAsked = Omit<LabelRule, "id">;

/** A rule as it is shown, with who set it and when. */
export interface LabelRuleSet extends LabelRule {
  setBy: string;
  setAt: number;
}

/** By which rules items are labelled. @param at the instant that is asked about; null for now */
export async function labelRulesAt(db: Reads, at: string | null): Promise<LabelRule[]> {
  const rules = await rulesSet(db, at);
  return rules.map(({ id, label, on, of }) => ({ id, label, on, of }));
}

export async function rulesSet(db: Reads, at: string | null): Promise<LabelRuleSet[]> {
  const rows = await db
    .selectFrom("label_rule")
    .selectAll()
    .$if(at === null, (query) => query.where("ended_at", "is", null))
    .$if(at !== null, (query) =>
      query
        .where("set_at", "<=", seconds(at!))
        .where((eb) => eb.or([eb("ended_at", "is", null), eb("ended_at", ">", seconds(at!))])),
    )
    .orderBy("id")
    .execute();
  return rows.map(({ id, label, kind, subject, set_by, set_at }) => ({
    ...{ id, label, on: kind, of: subject, setBy: set_by, setAt: set_at },
  }));
}

/** Has items labelled by a rule from now on; one for the same ends. @param items how many get another label by it */
export async function setLabelRule(db: Db, { label, on, of }: LabelAsked, items: number, actor: string): Promise<void> {
  await writing(db, async (tx) => {
    const now = tx.clock.seconds();
    await tx
      .updateTable("label_rule")
      .set({ ended_at: now })
      .where("kind", "=", on)
      .where("subject", "=", of)
      .where("ended_at", "is", null)
      .execute();
    const row = { label, kind: on, subject: of, set_by: actor, set_at: now, ended_at: null };
    await tx.insertInto("label_rule").values(row).execute();
    await appendWithin(tx, actor, "label-rule-set", { label, on, of, items });
  });
}

/** Has items no longer labelled by a rule. @throws {Problem} where it has ended, or never was */
export async function endLabelRule(db: Db, id: number, actor: string): Promise<void> {
  await writing(db, async (tx) => {
    const rule = (await rulesSet(tx, null)).find((one) => one.id === id);
    if (!rule) throw new Problem("unknown", "There is no such label rule. Reload the list.");
    await tx.updateTable("label_rule").set({ ended_at: tx.clock.seconds() }).where("id", "=", id).execute();
    const { label, on, of } = rule;
    await appendWithin(tx, actor, "label-rule-ended", { label, on, of });
  });
}
