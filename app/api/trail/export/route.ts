import { z } from "zod";
import { guarded, pastOf } from "@/server/http/guard";
import { searchIn } from "../asked";
import { trailExport, TRAIL_FORMATS } from "@/server/trail/exports";

const asked = z.object({ search: z.string().max(5_000), format: z.enum(TRAIL_FORMATS) });

/** Sent by a form, so that the browser writes the file as it comes. */
export const POST = guarded("read", async ({ request, actor, app }) => {
  const { search, format } = asked.parse(Object.fromEntries(await request.formData()));
  return trailExport(app, actor.email, searchIn(new URLSearchParams(search), pastOf(app, request)), format);
});
