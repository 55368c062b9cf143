import { z } from "zod";
import { guarded, queryOf } from "@/server/http/guard";
import { entriesBefore } from "@/server/records/ledger";

const asked = z.object({ before: z.coerce.number().int().default(Number.MAX_SAFE_INTEGER) });
const PAGE = 100;

export const GET = guarded("read", async ({ request, db }) => ({
  entries: await entriesBefore(db, queryOf(request, asked).before, PAGE),
}));
