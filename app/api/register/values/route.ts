import { z } from "zod";
import { CHOICE_NAMES } from "@/core/query/fields";
import { guarded, pastOf, queryOf } from "@/server/http/guard";

const asked = z.object({ field: z.enum(CHOICE_NAMES), text: z.string().max(200).default("") });

export const GET = guarded("read", async ({ request, app }) => ({
  values: await app.engine.ask("values", queryOf(request, asked), pastOf(app, request)),
}));
