import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { previewRule, ruleId } from "@/server/rules/rules";

const asked = z.object({ rule: ruleId, setting: z.unknown() });

/** What a rule would do, set so; nothing is changed. */
export const POST = guarded("change", async ({ request, app }) => {
  const { rule, setting } = await bodyOf(request, asked);
  return previewRule(app, rule, setting);
});
