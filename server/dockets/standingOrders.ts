import { seconds, type Seconds } from "@/core/time/instant";
import type { StandingOrder } from "@/core/changes/standingOrder";
import { type Db, type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import type { Asking } from "../engine/client";

/** The name under which the tool itself acts. */
export const ITSELF = "Tight Latch";

/** Has a share revoked at an instant; an order that there was for it goes. */
export async function keepStandingOrder(
  db: Db,
  { shareId, on, docketId }: { shareId: string; on: string; docketId: string },
): Promise<void> {
  await writing(db, async (within) => {
    const change = await within
      .selectFrom("docket_change")
      .innerJoin("docket", "docket.id", "docket_change.docket_id")
      .select(["item_name", "made_by"])
      .where("docket_id", "=", docketId)
      .where("docket_change.share_id", "=", shareId)
      .executeTakeFirstOrThrow();
    await keepOrderWithin(within, { shareId, on, itemName: change.item_name, madeBy: change.made_by });
  });
}

/** The same, within a transaction. */
export async function keepOrderWithin(
  within: Tx,
  { shareId, on, itemName, madeBy }: { shareId: string; on: string; itemName: string; madeBy: string },
): Promise<void> {
  await endOrders(within, [shareId], "dropped");
  const order = { share_id: shareId, item_name: itemName, on_at: on, made_by: madeBy };
  await within
    .insertInto("standing_order")
    .values({ ...order, state: "standing", made_at: within.clock.text(), ended_at: null, docket_id: null })
    .execute();
  await appendWithin(within, madeBy, "standing-order-given", { shareId, itemName, on });
}

/** Drops the order that stands for a share. */
export async function dropStandingOrder(db: Db, shareId: string): Promise<void> {
  await writing(db, async (within) => {
    await endOrders(within, [shareId], "dropped");
    await appendWithin(within, ITSELF, "standing-order-dropped", { shareId });
  });
}

export async function endOrders(db: Tx, shareIds: readonly string[], state: "done" | "dropped") {
  await db
    .updateTable("standing_order")
    .set({ state, ended_at: db.clock.text() })
    .where("share_id", "in", shareIds)
    .where("state", "=", "standing")
    .execute();
}

/** Orders that stand, the next first, as they are shown. */
export async function ordersView(db: Db): Promise<StandingOrder[]> {
  return (await standingOrders(db)).map(({ id, share_id, item_name, on_at, made_by }) => {
    return { id, shareId: share_id, itemName: item_name, on: on_at, by: made_by };
  });
}

/** Orders that stand, the next first. */
export function standingOrders(db: Db) {
  return db.selectFrom("standing_order").selectAll().where("state", "=", "standing").orderBy("on_at").execute();
}

/** Takes a standing order back. @returns false where it doesn't stand */
export async function dropOrder(app: Asking, actor: string, id: number): Promise<boolean> {
  const dropped = await writing(app.db, async (within) => {
    const order = await within
      .updateTable("standing_order")
      .set({ state: "dropped", ended_at: within.clock.text() })
      .where("id", "=", id)
      .where("state", "=", "standing")
      .returning("share_id")
      .executeTakeFirst();
    if (order) await appendWithin(within, actor, "standing-order-dropped", { shareId: order.share_id });
    return order !== undefined;
  });
  if (dropped) await app.engine.ask("refresh", {});
  return dropped;
}

/** Those that stood at an instant, or stand now. */
export async function ordersAt(db: Db, at: string | null): Promise<Map<string, Seconds>> {
  const orders = await db
    .selectFrom("standing_order")
    .select(["share_id", "on_at"])
    .where((eb) =>
      at === null
        ? eb("state", "=", "standing")
        : eb.and([eb("made_at", "<=", at), eb.or([eb("ended_at", "is", null), eb("ended_at", ">", at)])]),
    )
    .execute();
  return new Map(orders.map(({ share_id, on_at }) => [share_id, seconds(on_at)]));
}
