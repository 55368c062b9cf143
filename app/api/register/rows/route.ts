import { z } from "zod";
import { bodyOf, guarded, pastOf } from "@/server/http/guard";

const asked = z.object({ ids: z.array(z.string()).max(5_000) });

export const POST = guarded("read", async ({ request, app }) => ({
  rows: await app.engine.ask("rows", await bodyOf(request, asked), pastOf(app, request)),
}));
