import { guarded, queryOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";
import { placeQuery, searchOf } from "../asked";

export const GET = guarded("read", ({ request }) =>
  engine().ask("actGroups", { search: searchOf(request), ...queryOf(request, placeQuery) }),
);
