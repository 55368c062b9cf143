import { guarded, pastOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";
import { notesOn, waiversOn } from "@/server/register/remarks";

export const GET = guarded("read", async ({ request, db }) => {
  const past = pastOf(request);
  const shares = await engine().ask("publicList", {}, past);
  return { shares, notes: await notesOn(db, null, past), waivers: await waiversOn(db, null, past) };
});
