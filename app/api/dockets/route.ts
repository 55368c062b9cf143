import { guarded } from "@/server/http/guard";
import { appliedDockets } from "@/server/dockets/receipts";

export const GET = guarded("read", async ({ db }) => ({ dockets: await appliedDockets(db) }));
