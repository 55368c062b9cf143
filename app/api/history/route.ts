import { z } from "zod";
import { guarded, queryOf } from "@/server/http/guard";
import { DAY } from "@/core/time/instant";

const asked = z.object({ days: z.coerce.number().int().min(1).max(3_660).default(365) });

/** Outside shares at the end of each of the last days, the present one as far as it has come. */
export const GET = guarded("read", ({ request, app }) => {
  const { days } = queryOf(request, asked);
  const midnight = Math.floor(app.clock.seconds() / DAY) * DAY;
  const ends = Array.from({ length: days }, (_, i) => midnight - (days - 1 - i) * DAY);
  const minute = app.clock.seconds() - (app.clock.seconds() % 60);
  return app.engine.ask("history", { instants: [...ends, Math.max(minute, midnight)] });
});
