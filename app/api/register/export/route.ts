import { z } from "zod";
import { guarded, pastOf } from "@/server/http/guard";
import { exportOf, FORMATS } from "@/server/register/exports";
import { orderText, queryText } from "../asked";

const asked = z.object({ query: queryText, order: orderText, format: z.enum(FORMATS) });

/** Sent by a form, so that the browser writes the file as it comes. */
export const POST = guarded("read", async ({ request, actor, app }) => {
  const form = Object.fromEntries(await request.formData());
  return exportOf(app, actor.email, { ...asked.parse(form), past: pastOf(app, request) });
});
