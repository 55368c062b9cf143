import { bodyOf, guarded, may, pastOf } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { keepQuery, keptQueriesOf, keptQuerySchema } from "@/server/register/keptQueries";

export const GET = guarded("read", async ({ request, actor, app }) => ({
  queries: await keptQueriesOf(app, actor.email, pastOf(app, request)),
}));

export const POST = guarded("keep", async ({ request, db, actor }) => {
  const query = await bodyOf(request, keptQuerySchema);
  if (query.forAll && !may(actor, "change"))
    throw new Problem("not-allowed", "Queries for all are kept by administrators.");
  await keepQuery(db, actor.email, query);
  return {};
});
