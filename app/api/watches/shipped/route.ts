import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { nowSeconds } from "@/server/platform/clock";
import { keepShipped } from "@/server/trail/shipped";
import { zoneText } from "../../trail/asked";

const given = z.object({ zone: zoneText });

export const POST = guarded("change", async ({ request, db, actor }) => {
  const { zone } = await bodyOf(request, given);
  const told = { mail: [actor.email], webhook: false, syslog: false, zone };
  return { kept: await keepShipped(db, actor.email, told, nowSeconds()) };
});
