import { z } from "zod";
import { guarded, queryOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";
import { searchOf, zoneText } from "../asked";

const asked = z.object({ zone: zoneText });

export const GET = guarded("read", ({ request }) =>
  engine().ask("actCounts", { search: searchOf(request), ...queryOf(request, asked) }),
);
