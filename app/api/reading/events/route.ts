import { guarded } from "@/server/auth/guard";
import { eventStream } from "@/server/events";
import { readingEvents, readingStatus } from "@/server/reading/keeper";

export const GET = guarded("read", async ({ request, db }) =>
  eventStream(request, readingEvents, "progress", () => readingStatus(db)),
);
