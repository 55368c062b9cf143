import { z } from "zod";
import { bodyOf, guarded, pastOf } from "@/server/http/guard";
import { ruleId, tryRule } from "@/server/rules/rules";

const asked = z.object({ rule: ruleId, parameters: z.unknown() });

/** What a rule would find; nothing is changed. */
export const POST = guarded("keep", async ({ request, app }) => {
  const { rule, parameters } = await bodyOf(request, asked);
  return tryRule(app, rule, parameters, pastOf(app, request));
});
