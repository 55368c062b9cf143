import { sql } from "kysely";
import type { Change } from "@/core/changes/change";
import type { PlannedChange } from "@/core/changes/plan";
import { countWords } from "@/core/text/words";
import { type Db, writing } from "../platform/db/open";
import { bodyNow } from "../records/facts";
import { planned } from "./changes";
import { run } from "./executor";
import { beginApplying, openDocket } from "./lifecycle";
import { endOrders, ITSELF, standingOrders } from "./standingOrders";
import type { Carrying } from "./carrying";

/**
 * Revokes what standing orders are due today, all in one docket. The orders are closed and the docket begins in
 * one transaction: if the process ends, the docket goes on, and none is begun twice.
 * @returns the number of shares
 */
export async function carryOutOrders(app: Carrying): Promise<number> {
  await dropPointless(app.db);
  const due = (await standingOrders(app.db)).filter(({ on_at }) => on_at <= app.clock.text());
  if (due.length === 0) return 0;
  const ids = due.map(({ share_id }) => share_id);
  const plans = await planned(
    app,
    ids.map((shareId): Change => ({ action: "revoke", shareId })),
  );
  const docketId = await writing(app.db, async (within) => {
    // Another process may have done it meanwhile.
    const still = await within
      .selectFrom("standing_order")
      .select("share_id")
      .where("share_id", "in", ids)
      .where("state", "=", "standing")
      .execute();
    if (still.length < ids.length) return null;
    const words = `${countWords(ids.length, "standing order")} due`;
    await endOrders(within, ids, "done");
    const known = plans.filter((plan) => plan !== null && plan.length > 0) as PlannedChange[][];
    // If all of the shares have ended by themselves, there is nothing to do.
    if (known.length === 0) return null;
    const id = await openDocket(within, { madeBy: ITSELF, origin: "order", words, plans: known });
    return (await beginApplying(within, id, ITSELF)) ? id : null;
  });
  if (docketId) run(app, docketId);
  return ids.length;
}

/** A share that is revoked already needs no order. */
async function dropPointless(db: Db): Promise<void> {
  const share = bodyNow(["link", "grant"], sql.ref("standing_order.share_id"));
  await db
    .updateTable("standing_order")
    .set({ state: "dropped", ended_at: db.clock.text() })
    .where("state", "=", "standing")
    // Records are JSON; Kysely's own words for a part of it want a column.
    .where(sql<boolean>`${share} ->> '$.revokedAt' is not null`)
    .execute();
}
