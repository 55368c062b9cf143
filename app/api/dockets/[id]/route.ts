import { guarded } from "@/server/auth/guard";
import { docketView } from "@/server/dockets/receipts";

export const GET = guarded<{ id: string }>("read", ({ db, params }) => docketView(db, params.id));
