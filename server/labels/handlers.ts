import { shownName } from "@/core/text/shown";
import type { labelsOperations } from "@/contract/labels";
import type { LabelRule } from "@/core/estate/labels";
import type { StoreRecord } from "@/core/estate/records";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { bodiesNow, factNow } from "../records/facts";
import { endLabelRule, type LabelAsked, labelRulesAt, rulesSet, setLabelRule } from "./labelRules";

export const labelsHandlers: Handlers<Asking, typeof labelsOperations> = {
  async labelRules({ db }) {
    const rules = await rulesSet(db, null);
    return {
      rules: await Promise.all(rules.map(async (rule) => ({ ...rule, words: shownOrNone(await wordsOf(db, rule)) }))),
    };
  },
  async lookAtLabels(app, { body }) {
    const now = await labelRulesAt(app.db, null);
    if ("ends" in body) return outlook(app, without(now, body.ends));
    await checkSubject(app, body.rule);
    return outlook(app, withRule(now, body.rule));
  },
  async setLabelRule(app, { body: { rule, count }, actor }) {
    await checkSubject(app, rule);
    await checkShown(app, withRule(await labelRulesAt(app.db, null), rule), count);
    await setLabelRule(app.db, rule, count, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
  async endLabelRule(app, { body: { id, count }, actor }) {
    await checkShown(app, without(await labelRulesAt(app.db, null), id), count);
    await endLabelRule(app.db, id, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
};

function outlook({ engine }: Asking, rules: LabelRule[]) {
  return engine.ask("labelOutlook", { rules });
}

/** @throws {Problem} where other items would get another label than was shown */
async function checkShown(app: Asking, rules: LabelRule[], count: number) {
  if ((await outlook(app, rules)).count !== count)
    throw new Problem("conflict", "Something has changed since this was shown. Preview it again.");
}

/** One rule for one thing: a new one takes the place of the one before. */
function withRule(rules: readonly LabelRule[], { label, on, of }: LabelAsked): LabelRule[] {
  return [...rules.filter((one) => one.on !== on || one.of !== of), { id: 0, label, on, of }];
}

function without(rules: readonly LabelRule[], id: number): LabelRule[] {
  return rules.filter((one) => one.id !== id);
}

async function checkSubject({ db }: Asking, { on, of }: LabelAsked) {
  if (on === "place" && !(await factNow(db, "item", of)))
    throw new Problem("unknown", "No item is known by that ID. Find it by its name.");
  if (on === "store" && !(await factNow(db, "store", of))) throw new Problem("unknown", "No such store is known.");
  if (on === "name" && /^[*?]+$/.test(of))
    throw new Problem("bad", "of: a pattern that fits every name labels everything. Choose a store instead.");
}

function shownOrNone(name: string | null): string | null {
  return name === null ? null : shownName(name);
}

async function wordsOf(db: Asking["db"], { on, of }: LabelAsked): Promise<string | null> {
  if (on === "name") return of;
  if (on === "place") return (await factNow<{ name: string }>(db, "item", of))?.name ?? null;
  return (await bodiesNow<StoreRecord>(db, "store")).find(({ record }) => record.id === of)?.record.name ?? null;
}
