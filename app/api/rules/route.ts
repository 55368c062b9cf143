import { guarded, pastOf } from "@/server/http/guard";
import { rulesView } from "@/server/rules/rules";

export const GET = guarded("read", ({ request, db }) => rulesView(db, pastOf(request)));
