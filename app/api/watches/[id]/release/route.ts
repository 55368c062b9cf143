import { guarded } from "@/server/http/guard";
import { releaseHeld, sendNow } from "@/server/messages/outbox";

/** Lets what a watch holds back go out now, in one digest for each who is told. */
export const POST = guarded<{ id: string }>("change", async ({ db, params, app }) => {
  const released = await releaseHeld(db, params.id);
  await sendNow(app);
  return { released };
});
