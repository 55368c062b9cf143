import { z } from "zod";
import { GROUPINGS } from "@/core/query/outline";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { orderText, queryText } from "./asked";

const asked = z.object({
  query: queryText,
  order: orderText,
  group: z.enum(GROUPINGS).nullable().default(null),
  /** Keys of the open groups, with line ends between them. */
  open: z
    .string()
    .max(20_000)
    .optional()
    .transform((text) => (text === undefined ? [] : text.split("\n"))),
  from: z.coerce.number().int().min(0).default(0),
  count: z.coerce.number().int().min(1).max(500).default(100),
  behind: z.string().optional(),
});

export const GET = guarded("read", ({ request, app }) =>
  app.engine.ask("register", queryOf(request, asked), pastOf(app, request)),
);
