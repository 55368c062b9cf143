import { z } from "zod";
import { guarded, queryOf } from "@/server/http/guard";
import { searchOf, zoneText } from "../asked";

const asked = z.object({ zone: zoneText });

export const GET = guarded("read", ({ request, app }) =>
  app.engine.ask("actCounts", { search: searchOf(app, request), ...queryOf(request, asked) }),
);
