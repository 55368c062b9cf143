import { guarded } from "@/server/http/guard";
import { readNow } from "@/server/reading";

export const POST = guarded("change", async ({ app }) => ({ results: await readNow(app) }));
