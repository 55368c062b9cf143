import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { keepShipped } from "@/server/trail/shipped";
import { zoneText } from "../../trail/asked";

const given = z.object({ zone: zoneText });

export const POST = guarded("change", async ({ request, db, actor, app }) => {
  const { zone } = await bodyOf(request, given);
  const told = { mail: [actor.email], webhook: false, syslog: false, zone };
  return { kept: await keepShipped(db, actor.email, told, app.clock.seconds()) };
});
