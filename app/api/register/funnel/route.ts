import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";
import { queryText } from "../asked";

const asked = z.object({ query: queryText });

export const GET = guarded("read", ({ request }) => engine().ask("funnel", queryOf(request, asked), pastOf(request)));
