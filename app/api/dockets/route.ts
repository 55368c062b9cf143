import { guarded } from "@/server/auth/guard";
import { appliedDockets } from "@/server/dockets/receipts";

export const GET = guarded("read", async ({ db }) => ({ dockets: await appliedDockets(db) }));
