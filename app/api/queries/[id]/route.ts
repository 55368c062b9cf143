import { guarded, RequestError } from "@/server/auth/guard";
import { dropQuery } from "@/server/register/keptQueries";

export const DELETE = guarded<{ id: string }>("keep", async ({ db, actor, params }) => {
  if (!(await dropQuery(db, actor.email, params.id))) throw new RequestError(404, "You keep no such query.");
  return {};
});
