import { guarded, pastOf } from "@/server/auth/guard";
import { rulesView } from "@/server/rules/rules";

export const GET = guarded("read", ({ request, db }) => rulesView(db, pastOf(request)));
