import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { queryText } from "../asked";

const asked = z.object({ query: queryText });

export const GET = guarded("read", ({ request, app }) =>
  app.engine.ask("funnel", queryOf(request, asked), pastOf(app, request)),
);
