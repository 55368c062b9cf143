import { z } from "zod";
import { guarded, queryOf } from "@/server/auth/guard";
import { entriesBefore } from "@/server/ledger/ledger";

const asked = z.object({ before: z.coerce.number().int().default(Number.MAX_SAFE_INTEGER) });
const PAGE = 100;

export const GET = guarded("read", async ({ request, db }) => ({
  entries: await entriesBefore(db, queryOf(request, asked).before, PAGE),
}));
