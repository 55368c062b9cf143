import type { DocketProgress, HeldStore } from "@/core/changes/states";
import { connectionsByStore } from "../stores/connections";
import type { Carrying } from "./carrying";
import { docketProgress } from "./docketProgress";

/** How far a docket is, and which stores it waits for. @throws {Problem} where there is none */
export async function progressNow(app: Carrying, docketId: string): Promise<DocketProgress> {
  const progress = await docketProgress(app.db, docketId);
  return progress.state === "applying" ? { ...progress, held: await heldIn(app, docketId) } : progress;
}

async function heldIn({ db, carrying }: Carrying, docketId: string): Promise<HeldStore[]> {
  const open = await db
    .selectFrom("docket_change")
    .select("store_id")
    .distinct()
    .where("docket_id", "=", docketId)
    .where("state", "in", ["staged", "sending"])
    .execute();
  const connections = await connectionsByStore(db);
  return open.flatMap(({ store_id }) => {
    const connection = connections.get(store_id);
    const held = connection && carrying.paces.get(connection.id)?.held;
    return held ? [{ store: connection.name, ...held }] : [];
  });
}
