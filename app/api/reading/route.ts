import { guarded } from "@/server/http/guard";
import { readNow } from "@/server/keeper";

export const POST = guarded("change", async ({ db }) => ({ results: await readNow(db) }));
