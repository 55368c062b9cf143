import { bodyOf, guarded } from "@/server/http/guard";
import { leaveNote, noteSchema } from "@/server/register/remarks";

export const POST = guarded<{ id: string }>("change", async ({ request, actor, params, app }) => {
  await leaveNote(app, actor.email, params.id, await bodyOf(request, noteSchema));
  return {};
});
