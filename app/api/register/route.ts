import { z } from "zod";
import { SORTS } from "@/core/query/match";
import { guarded, pastOf, queryOf } from "@/server/auth/guard";
import { engine } from "@/server/engine/client";

const asked = z.object({
  query: z.string().max(2_000).default(""),
  sort: z.enum(SORTS).default("risk"),
  reversed: z.stringbool().default(false),
  from: z.coerce.number().int().min(0).default(0),
  count: z.coerce.number().int().min(1).max(500).default(100),
});

export const GET = guarded("read", ({ request }) => engine().ask("register", queryOf(request, asked), pastOf(request)));
