import { guarded } from "@/server/http/guard";
import { eventStream } from "@/server/http/events";
import { readingEvents, readingStatus } from "@/server/keeper";

export const GET = guarded("read", async ({ request, db }) =>
  eventStream(request, readingEvents, "progress", () => readingStatus(db)),
);
