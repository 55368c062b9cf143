import { guarded } from "@/server/http/guard";
import { datesToCome } from "@/server/desk/dates";

export const GET = guarded(
  "read",
  async ({ app }) =>
    new Response(await datesToCome(app), {
      headers: {
        "Content-Type": "text/calendar; charset=utf-8",
        "Content-Disposition": 'attachment; filename="dates.ics"',
      },
    }),
);
