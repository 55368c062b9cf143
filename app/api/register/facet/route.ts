import { z } from "zod";
import { FACETS } from "@/core/query/facets";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { queryText } from "../asked";

const asked = z.object({ query: queryText, field: z.enum(FACETS), text: z.string().max(200).default("") });
const MOST = 50;

export const GET = guarded("read", ({ request, app }) =>
  app.engine.ask("facet", { ...queryOf(request, asked), most: MOST }, pastOf(app, request)),
);
