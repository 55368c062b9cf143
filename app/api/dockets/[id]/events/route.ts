import { guarded } from "@/server/http/guard";
import { docketProgress } from "@/server/dockets/docketProgress";
import { progressEvents } from "@/server/dockets/progressEvents";
import { eventStream } from "@/server/http/events";

export const GET = guarded<{ id: string }>("read", async ({ request, db, params }) =>
  eventStream(request, progressEvents, params.id, () => docketProgress(db, params.id)),
);
