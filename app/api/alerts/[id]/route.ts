import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { alertOf, assign, markSeen, settle } from "@/server/trail/alerts";

const idSchema = z.coerce.number().int().min(1);
const given = z.discriminatedUnion("act", [
  z.object({ act: z.literal("see") }),
  z.object({
    act: z.literal("settle"),
    note: z.string().trim().min(1, "Say in a few words why it is settled.").max(1_000),
  }),
  z.object({ act: z.literal("reopen") }),
  z.object({ act: z.literal("assign"), to: z.email().nullable() }),
]);

export const GET = guarded<{ id: string }>("read", async ({ db, params }) => {
  const alert = await alertOf(db, idSchema.parse(params.id));
  if (!alert) throw new Problem("unknown", "There is no such alert.");
  return alert;
});

export const POST = guarded<{ id: string }>("change", async ({ request, db, actor, params, app }) => {
  const id = idSchema.parse(params.id);
  const asked = await bodyOf(request, given);
  if (!(await alertOf(db, id))) throw new Problem("unknown", "There is no such alert.");
  if (asked.act === "see") await markSeen(db, id);
  else if (asked.act === "assign") {
    if (!(await assign(db, actor.email, id, asked.to))) throw new Problem("bad", "Nobody signs in with that address.");
  } else await settle(db, actor.email, id, asked.act === "settle" ? asked.note : null);
  app.alertEvents.emit("alerts");
  return {};
});
