import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";

const asked = z.object({ query: z.string().max(2_000).default("") });

export const GET = guarded("read", async ({ request }) => ({
  ids: await engine().ask("matching", queryOf(request, asked), pastOf(request)),
}));
