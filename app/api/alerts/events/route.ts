import { guarded } from "@/server/http/guard";
import { eventStream } from "@/server/http/events";
import { newAlerts } from "@/server/trail/alerts";

/** Says how many alerts are new, whenever that changes. */
export const GET = guarded("read", async ({ request, db, app }) =>
  eventStream(request, app.alertEvents, "alerts", async () => ({ fresh: await newAlerts(db) })),
);
