import { guarded, queryOf } from "@/server/http/guard";
import { placeQuery, searchOf } from "../asked";

export const GET = guarded("read", ({ request, app }) =>
  app.engine.ask("actGroups", { search: searchOf(app, request), ...queryOf(request, placeQuery) }),
);
