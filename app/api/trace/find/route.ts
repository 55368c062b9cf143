import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";

const asked = z.object({ text: z.string().max(200) });

export const GET = guarded("read", ({ request, app }) =>
  app.engine.ask("find", queryOf(request, asked), pastOf(app, request)),
);
