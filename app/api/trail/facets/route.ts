import { guarded } from "@/server/http/guard";
import { engine } from "@/server/engine/client";
import { searchOf } from "../asked";

export const GET = guarded("read", ({ request }) => engine().ask("actFacets", { search: searchOf(request) }));
