import { z } from "zod";
import { bodyOf, guarded } from "@/server/auth/guard";
import { endWaiver, giveWaiver } from "@/server/register/remarks";
import { waiverSchema } from "@/server/rules/waivers";

const ending = z.object({ waiver: z.int() });

export const POST = guarded<{ id: string }>("change", async ({ request, db, actor, params }) => {
  await giveWaiver(db, actor.email, params.id, await bodyOf(request, waiverSchema));
  return {};
});

export const DELETE = guarded<{ id: string }>("change", async ({ request, db, actor, params }) => {
  await endWaiver(db, actor.email, params.id, (await bodyOf(request, ending)).waiver);
  return {};
});
