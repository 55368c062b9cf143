import { z } from "zod";
import { bodyOf, guarded, RequestError } from "@/server/auth/guard";
import { dropOrder, ordersView } from "@/server/orders/standingOrders";

const dropping = z.object({ id: z.int() });

export const GET = guarded("read", async ({ db }) => ({ orders: await ordersView(db) }));

export const DELETE = guarded("change", async ({ request, db, actor }) => {
  const { id } = await bodyOf(request, dropping);
  if (!(await dropOrder(db, actor.email, id))) throw new RequestError(404, "There is no such order that stands.");
  return {};
});
