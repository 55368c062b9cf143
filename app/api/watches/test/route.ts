import { z } from "zod";
import { DAY } from "@/core/time/instant";
import { watchSchema } from "@/core/trail/watch";
import { bodyOf, guarded } from "@/server/http/guard";

const given = z.object({ watch: watchSchema, days: z.int().min(1).max(400).default(90) });

/** What a watch would have raised, had it been on. */
export const POST = guarded("read", async ({ request, app }) => {
  const { watch, days } = await bodyOf(request, given);
  if (watch.kind !== "acts") return { alerts: null, days };
  const to = app.clock.seconds() + 1;
  return { alerts: await app.engine.ask("wouldHaveRaised", { watch, from: to - days * DAY, to }), days };
});
