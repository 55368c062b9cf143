import { z } from "zod";
import { bodyOf, guarded, pastOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";

const asked = z.object({ ids: z.array(z.string()).max(5_000) });

export const POST = guarded("read", async ({ request }) => ({
  rows: await engine().ask("rows", await bodyOf(request, asked), pastOf(request)),
}));
