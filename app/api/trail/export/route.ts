import { z } from "zod";
import { parseSearch } from "@/core/trail/search";
import { guarded, pastOf } from "@/server/auth/guard";
import { trailExport, TRAIL_FORMATS } from "@/server/trail/exports";

const asked = z.object({ search: z.string().max(5_000), format: z.enum(TRAIL_FORMATS) });

/** Sent by a form, so that the browser writes the file as it comes. */
export const POST = guarded("read", async ({ request, db, actor }) => {
  const { search, format } = asked.parse(Object.fromEntries(await request.formData()));
  const past = pastOf(request);
  const found = parseSearch(new URLSearchParams(search));
  const bounded = past === undefined ? found : { ...found, to: Math.min(found.to ?? Infinity, past + 1) };
  return trailExport(db, actor.email, bounded, format);
});
