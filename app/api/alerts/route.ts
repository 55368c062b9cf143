import { z } from "zod";
import { ALERT_STATES } from "@/core/trail/watch";
import { guarded, queryOf } from "@/server/http/guard";
import { alerts } from "@/server/trail/alerts";

const asked = z.object({ state: z.enum(ALERT_STATES).optional() });

export const GET = guarded("read", async ({ request, db }) => {
  const { state } = queryOf(request, asked);
  return { alerts: await alerts(db, state ? [state] : ["new", "seen"]) };
});
