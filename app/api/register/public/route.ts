import { guarded, pastOf } from "@/server/http/guard";
import { notesOn, waiversOn } from "@/server/register/remarks";

export const GET = guarded("read", async ({ request, db, app }) => {
  const past = pastOf(app, request);
  const shares = await app.engine.ask("publicList", {}, past);
  return { shares, notes: await notesOn(db, null, past), waivers: await waiversOn(db, null, past) };
});
