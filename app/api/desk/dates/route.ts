import { guarded } from "@/server/auth/guard";
import { datesToCome } from "@/server/dates";

export const GET = guarded(
  "read",
  async ({ db }) =>
    new Response(await datesToCome(db), {
      headers: {
        "Content-Type": "text/calendar; charset=utf-8",
        "Content-Disposition": 'attachment; filename="dates.ics"',
      },
    }),
);
