import { guarded } from "@/server/http/guard";
import { eventStream } from "@/server/http/events";
import { readingStatus } from "@/server/reading";

export const GET = guarded("read", async ({ request, app }) =>
  eventStream(request, app.readingEvents, "progress", () => readingStatus(app)),
);
