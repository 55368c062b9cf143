import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { dropOrder, ordersView } from "@/server/dockets/standingOrders";

const dropping = z.object({ id: z.int() });

export const GET = guarded("read", async ({ db }) => ({ orders: await ordersView(db) }));

export const DELETE = guarded("change", async ({ request, actor, app }) => {
  const { id } = await bodyOf(request, dropping);
  if (!(await dropOrder(app, actor.email, id))) throw new Problem("unknown", "There is no such order that stands.");
  return {};
});
