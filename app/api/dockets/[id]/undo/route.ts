import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { prepareUndo } from "@/server/dockets/undo";

/** Null takes back all that was done. */
const asked = z.object({ subjects: z.array(z.string()).max(20_000).nullable() });

export const POST = guarded<{ id: string }>("change", async ({ request, actor, params, app }) => {
  const { subjects } = await bodyOf(request, asked);
  return prepareUndo(app, params.id, subjects, actor.email);
});
