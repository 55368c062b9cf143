import { z } from "zod";
import { bodyOf, guarded, queryOf } from "@/server/http/guard";
import { handWorkCsv, handWorkOf, sayDone } from "@/server/dockets/byHand";

const asked = z.object({ as: z.enum(["json", "csv"]).default("json") });
const said = z.object({ subject: z.string().min(1).max(600) });

export const GET = guarded<{ id: string }>("read", async ({ request, db, params }) => {
  const work = await handWorkOf(db, params.id);
  if (queryOf(request, asked).as === "json") return { work };
  return new Response(handWorkCsv(work), {
    headers: { "Content-Type": "text/csv; charset=utf-8", "Content-Disposition": 'attachment; filename="by-hand.csv"' },
  });
});

export const POST = guarded<{ id: string }>("change", async ({ request, db, actor, params }) => {
  const { subject } = await bodyOf(request, said);
  await sayDone(db, params.id, subject, actor.email);
  return {};
});
