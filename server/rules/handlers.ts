import { z } from "zod";
import type { rulesOperations } from "@/contract/rules";
import { RULE_IDS } from "@/core/rules/list";
import type { Asking } from "../engine/client";
import type { Handlers } from "../platform/serving";
import { stopEnforcing } from "./enforcing";
import { changeRule, previewRule, rulesView, tryRule } from "./rules";
import { ruleHistory } from "./settings";
import { allWaivers, endMany, giveWaivers } from "./waivers";

const ruleId = z.enum(RULE_IDS, { error: "There is no such rule." });

export const rulesHandlers: Handlers<Asking, typeof rulesOperations> = {
  rules: (app, { past }) => rulesView(app, past),
  tryRule: (app, { body: { rule, parameters }, past }) => tryRule(app, rule, parameters, past),
  previewRule: (app, { body: { rule, setting } }) => previewRule(app, rule, setting),
  ruleHistory: async ({ db }, { params }) => ({ changes: await ruleHistory(db, ruleId.parse(params.id)) }),
  async setRule(app, { actor, params, body: { setting, pass } }) {
    await changeRule(app, actor, ruleId.parse(params.id), setting, pass);
    return {};
  },
  async stopEnforcing({ db }, { actor, body: { isStopped } }) {
    await stopEnforcing(db, actor.email, isStopped);
    return {};
  },
  waivers: async (app, { past }) => ({ waivers: await allWaivers(app, past) }),
  giveWaivers: async (app, { actor, body }) => ({ given: await giveWaivers(app, actor.email, body) }),
  async endWaivers(app, { actor, body: { ids } }) {
    await endMany(app, actor.email, ids);
    return {};
  },
};
