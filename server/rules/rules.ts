import { z } from "zod";
import { RULES } from "@/core/rules/list";
import { RULE_IDS, type RuleId } from "@/core/rules/list";
import { MODES, type RuleSetting } from "@/core/rules/mode";
import { readSetting } from "@/core/rules/setting";
import type { RulesView, RuleTrial } from "@/core/rules/view";
import { DAY, HOUR } from "@/core/time/instant";
import { askLetter } from "../messages/letterWords";
import { Problem } from "../platform/problem";
import type { Actor } from "../platform/serving";
import { signed, subjectOf } from "../platform/signed";
import { enforcingStopped, leftThisHour } from "./enforcing";
import { ruleSettings, setRule } from "./settings";
import type { Asking } from "../engine/client";

/** How many owners are named before they are mailed; more are only counted. */
const MOST_OWNERS = 200;

/** All rules as they are set, with what they find; as they were at an instant where one is given. */
export async function rulesView(app: Asking, at?: number): Promise<RulesView> {
  const settings = await ruleSettings(
    app.db,
    at === undefined ? null : new Date(at * 1000).toISOString().slice(0, 19) + "Z",
  );
  const counts = await app.engine.ask("ruleCounts", {}, at);
  const demands = await app.db
    .selectFrom("demand")
    .select((eb) => ["rule", eb.fn.countAll<number>().as("count")])
    .where("state", "in", ["found", "asked"])
    .groupBy("rule")
    .execute();
  const asked = new Map(demands.map(({ rule, count }) => [rule, Number(count)]));
  return {
    rules: RULE_IDS.map((id) => ({ id, ...settings[id], ...counts[id], asked: asked.get(id) ?? 0 })),
    stopped: await enforcingStopped(app.db),
    leftThisHour: await leftThisHour(app.db),
  };
}

/** What a rule would find with such parameters. @throws {z.ZodError} naming the slot that is out of range */
export async function tryRule(app: Asking, rule: RuleId, parameters: unknown, at?: number): Promise<RuleTrial> {
  const parsed = z.object({ parameters: RULES[rule].parameters }).parse({ parameters });
  return app.engine.ask("tryRule", { rule, parameters: parsed.parameters }, at);
}

/** What a rule would do, set so; and a pass with which it can be set to ask or enforce, within the hour. */
export async function previewRule(app: Asking, rule: RuleId, given: unknown) {
  const setting = readSetting(rule, given);
  await mustMeetSomething(app, rule, setting);
  const { mails, ...preview } = await app.engine.ask("previewRule", { rule, parameters: setting.parameters });
  const due = app.clock.seconds() + setting.graceDays * DAY;
  const { subject, text } = askLetter(mails.sample, due, `${app.settings.url}/answer#…`);
  const isAsking = setting.mode !== "observe" && mails.owners.length > 0;
  return {
    preview,
    mails: {
      owners: mails.owners.slice(0, MOST_OWNERS),
      count: mails.owners.length,
      ownerless: mails.ownerless,
      sample: isAsking ? { to: mails.owners[0].name, subject, text } : null,
    },
    pass: signed(app, "preview", passedBy(rule, setting), app.clock.seconds() + HOUR),
  };
}

function passedBy(rule: RuleId, setting: RuleSetting): string {
  return JSON.stringify([rule, setting]);
}

/**
 * Sets a rule. To a stricter mode it goes only past its preview: `pass` comes with that.
 * @throws {Problem | z.ZodError} saying which slot is wrong, or that the preview is missing
 */
export async function changeRule(app: Asking, actor: Actor, rule: RuleId, given: unknown, pass: string | null) {
  const setting = readSetting(rule, given);
  const before = (await ruleSettings(app.db))[rule];
  await mustMeetSomething(app, rule, setting);
  const isStricter = setting.isOn && MODES.indexOf(setting.mode) > (before.isOn ? MODES.indexOf(before.mode) : 0);
  if (isStricter && (pass === null || subjectOf(app, "preview", pass) !== passedBy(rule, setting)))
    throw new Problem(
      "conflict",
      "Look at the preview of this mode first: it hasn’t been seen for the rule’s current settings.",
    );
  await setRule(app.db, actor.email, rule, setting, actor);
  await app.engine.ask("refresh", {});
}

/** A scope that matches nothing would silently switch a rule off. */
async function mustMeetSomething(app: Asking, rule: RuleId, { parameters }: RuleSetting) {
  if (!parameters.scope) return;
  const { problems } = await app.engine.ask("tryRule", { rule, parameters });
  if (problems.length > 0) throw new Problem("bad", `scope: ${problems.join(" ")} Nothing was changed.`);
}
