import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";

const name = z.string().min(1).max(500);
const asked = z
  .object({
    item: name,
    person: name.optional(),
    organisation: name.optional(),
    below: z.stringbool().default(false),
  })
  .refine((one) => one.person ?? one.organisation, { error: "name a person or an organisation" });

export const GET = guarded("read", async ({ request, app }) => {
  const cut = await app.engine.ask("cheapestCut", queryOf(request, asked), pastOf(app, request));
  if (!cut) throw new Problem("unknown", "Nobody, or nothing, of that name is known at this time.");
  return cut;
});
