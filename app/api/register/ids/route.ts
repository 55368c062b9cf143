import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";

const asked = z.object({ query: z.string().max(2_000).default("") });

export const GET = guarded("read", async ({ request, app }) => ({
  ids: await app.engine.ask("matching", queryOf(request, asked), pastOf(app, request)),
}));
