import { bodyOf, guarded, may, pastOf } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { keepQuery, keptQueriesOf, keptQuerySchema } from "@/server/register/keptQueries";

export const GET = guarded("read", async ({ request, db, actor }) => ({
  queries: await keptQueriesOf(db, actor.email, pastOf(request)),
}));

export const POST = guarded("keep", async ({ request, db, actor }) => {
  const query = await bodyOf(request, keptQuerySchema);
  if (query.forAll && !may(actor, "change"))
    throw new Problem("not-allowed", "Queries for all are kept by administrators.");
  await keepQuery(db, actor.email, query);
  return {};
});
