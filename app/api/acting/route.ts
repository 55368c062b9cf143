import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { stopActing } from "@/server/rules/acting";

const given = z.object({ isStopped: z.boolean() });

/** The switch that stops all that rules do by themselves. */
export const POST = guarded("change", async ({ request, actor, db }) => {
  await stopActing(db, actor.email, (await bodyOf(request, given)).isStopped);
  return {};
});
