import { guarded } from "@/server/auth/guard";
import { docketProgress } from "@/server/dockets/executor";
import { receiptsOf } from "@/server/dockets/receipts";

export const GET = guarded<{ id: string }>("read", async ({ db, params }) => ({
  progress: await docketProgress(db, params.id),
  receipts: await receiptsOf(db, params.id),
}));
