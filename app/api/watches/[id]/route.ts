import { guarded } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { writing } from "@/server/platform/db/open";
import { dropWatch } from "@/server/trail/watches";

export const DELETE = guarded<{ id: string }>("change", async ({ db, actor, params }) => {
  if (!(await writing(db, (within) => dropWatch(within, actor.email, params.id))))
    throw new Problem("unknown", "There is no such watch any more.");
  return {};
});
