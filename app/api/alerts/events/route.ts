import { guarded } from "@/server/auth/guard";
import { eventStream } from "@/server/events";
import { alertEvents } from "@/server/reading/keeper";
import { newAlerts } from "@/server/trail/alerts";

/** Says how many alerts are new, whenever that changes. */
export const GET = guarded("read", async ({ request, db }) =>
  eventStream(request, alertEvents, "alerts", async () => ({ fresh: await newAlerts(db) })),
);
