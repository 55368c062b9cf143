import { guarded } from "@/server/http/guard";
import { eventStream } from "@/server/http/events";
import { alertEvents } from "@/server/keeper";
import { newAlerts } from "@/server/trail/alerts";

/** Says how many alerts are new, whenever that changes. */
export const GET = guarded("read", async ({ request, db }) =>
  eventStream(request, alertEvents, "alerts", async () => ({ fresh: await newAlerts(db) })),
);
