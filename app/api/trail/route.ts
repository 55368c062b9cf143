import { guarded, queryOf } from "@/server/http/guard";
import { placeQuery, searchOf } from "./asked";

export const GET = guarded("read", ({ request, app }) => {
  const { count, before } = queryOf(request, placeQuery);
  return app.engine.ask("acts", { search: searchOf(app, request), before, count });
});
