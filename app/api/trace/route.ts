import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";

const name = z.string().min(1).max(500).optional();
const asked = z
  .object({ item: name, person: name, organisation: name })
  .refine((one) => one.item ?? one.person ?? one.organisation, { error: "name an item, a person or an organisation" });

export const GET = guarded("read", async ({ request, app }) => {
  const trace = await app.engine.ask("trace", queryOf(request, asked), pastOf(app, request));
  if (!trace) throw new Problem("unknown", "Nobody, or nothing, of that name is known at this time.");
  return trace;
});
