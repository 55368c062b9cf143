import { z } from "zod";
import { guarded, pastOf, queryOf } from "@/server/http/guard";
import { engine } from "@/server/engine/client";

const asked = z.object({ text: z.string().max(200) });

export const GET = guarded("read", ({ request }) => engine().ask("find", queryOf(request, asked), pastOf(request)));
