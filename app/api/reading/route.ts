import { guarded } from "@/server/auth/guard";
import { readNow } from "@/server/reading/keeper";

export const POST = guarded("change", async ({ db }) => ({ results: await readNow(db) }));
