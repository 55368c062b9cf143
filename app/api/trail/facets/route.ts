import { guarded } from "@/server/http/guard";
import { searchOf } from "../asked";

export const GET = guarded("read", ({ request, app }) =>
  app.engine.ask("actFacets", { search: searchOf(app, request) }),
);
