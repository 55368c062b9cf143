import { guarded } from "@/server/http/guard";
import { docketProgress } from "@/server/dockets/docketProgress";
import { eventStream } from "@/server/http/events";

export const GET = guarded<{ id: string }>("read", async ({ request, db, params, app }) =>
  eventStream(request, app.carrying.events, params.id, () => docketProgress(db, params.id)),
);
