import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { changeRule, ruleId } from "@/server/rules/rules";
import { ruleHistory } from "@/server/rules/settings";

const given = z.object({ setting: z.unknown(), pass: z.string().max(5_000).nullable() });

/** Every change of the rule, the newest first. */
export const GET = guarded<{ id: string }>("read", async ({ db, params }) => ({
  changes: await ruleHistory(db, ruleId.parse(params.id)),
}));

export const PUT = guarded<{ id: string }>("change", async ({ request, actor, params, app }) => {
  const { setting, pass } = await bodyOf(request, given);
  await changeRule(app, actor.email, ruleId.parse(params.id), setting, pass);
  return {};
});
