import { z } from "zod";
import { bodyOf, guarded, pastOf } from "@/server/http/guard";
import { allWaivers, endMany, giveWaivers, waiversSchema } from "@/server/rules/waivers";

const ending = z.object({ ids: z.array(z.int()).min(1).max(20_000) });

/** Every waiver with what it is for, those that hold first. */
export const GET = guarded("read", async ({ request, app }) => ({
  waivers: await allWaivers(app, pastOf(app, request)),
}));

export const POST = guarded("change", async ({ request, actor, app }) => ({
  given: await giveWaivers(app, actor.email, await bodyOf(request, waiversSchema)),
}));

export const DELETE = guarded("change", async ({ request, actor, app }) => {
  await endMany(app, actor.email, (await bodyOf(request, ending)).ids);
  return {};
});
