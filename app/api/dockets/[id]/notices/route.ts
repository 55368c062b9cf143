import { z } from "zod";
import { TOLD } from "@/core/changes/telling";
import { bodyOf, guarded } from "@/server/http/guard";
import { noticesView, sendNotices } from "@/server/dockets/notices";

const asked = z.object({
  audience: z.enum(TOLD),
  subject: z.string().trim().min(1).max(200),
  head: z.string().trim().min(1).max(5_000),
  addresses: z.array(z.email()).min(1).max(5_000),
});

export const GET = guarded<{ id: string }>("read", ({ params, app }) => noticesView(app, params.id));

export const POST = guarded<{ id: string }>("change", async ({ request, actor, params, app }) => {
  return { count: await sendNotices(app, params.id, await bodyOf(request, asked), actor.email) };
});
