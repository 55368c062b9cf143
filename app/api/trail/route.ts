import { guarded, queryOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";
import { placeQuery, searchOf } from "./asked";

export const GET = guarded("read", ({ request }) => {
  const { count, before } = queryOf(request, placeQuery);
  return engine().ask("acts", { search: searchOf(request), before, count });
});
