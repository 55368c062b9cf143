import { guarded, RequestError } from "@/server/auth/guard";
import { writing } from "@/server/db/open";
import { dropWatch } from "@/server/trail/watches";

export const DELETE = guarded<{ id: string }>("change", async ({ db, actor, params }) => {
  if (!(await writing(db, (within) => dropWatch(within, actor.email, params.id))))
    throw new RequestError(404, "There is no such watch any more.");
  return {};
});
