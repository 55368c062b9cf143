import { guarded, pastOf } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { notesOn, waiversOn } from "@/server/register/remarks";

export const GET = guarded<{ id: string }>("read", async ({ request, params, db, app }) => {
  const past = pastOf(app, request);
  const detail = await app.engine.ask("share", { id: params.id }, past);
  if (!detail) throw new Problem("unknown", "This share is gone: it was revoked, or its store no longer has it.");
  const subjects = [params.id, detail.row.itemId];
  const [notes, waivers] = [await notesOn(db, [params.id], past), await waiversOn(db, subjects, past)];
  return { ...detail, notes, waivers };
});
