import { guarded } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { dropQuery } from "@/server/register/keptQueries";

export const DELETE = guarded<{ id: string }>("keep", async ({ db, actor, params }) => {
  if (!(await dropQuery(db, actor.email, params.id))) throw new Problem("unknown", "You keep no such query.");
  return {};
});
