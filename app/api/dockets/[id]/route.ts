import { z } from "zod";
import { CHANGE_STATES } from "@/core/changes/states";
import { guarded, queryOf } from "@/server/http/guard";
import { docketView } from "@/server/dockets/receipts";

const asked = z.object({
  state: z.enum(CHANGE_STATES).nullable().default(null),
  from: z.coerce.number().int().min(0).default(0),
});

export const GET = guarded<{ id: string }>("read", ({ request, params, app }) =>
  docketView(app, params.id, queryOf(request, asked)),
);
