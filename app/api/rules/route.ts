import { guarded, pastOf } from "@/server/http/guard";
import { rulesView } from "@/server/rules/rules";

export const GET = guarded("read", ({ request, app }) => rulesView(app, pastOf(app, request)));
