import { bodyOf, guarded } from "@/server/http/guard";
import { leaveNote, noteSchema } from "@/server/register/remarks";

export const POST = guarded<{ id: string }>("change", async ({ request, db, actor, params }) => {
  await leaveNote(db, actor.email, params.id, await bodyOf(request, noteSchema));
  return {};
});
