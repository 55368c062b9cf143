import { z } from "zod";
import { guarded, queryOf } from "@/server/http/guard";
import { nowSeconds } from "@/server/platform/clock";
import { engine } from "@/server/engine/client";
import { DAY } from "@/core/time/instant";

const asked = z.object({ days: z.coerce.number().int().min(1).max(3_660).default(365) });

/** Outside shares at the end of each of the last days, the present one as far as it has come. */
export const GET = guarded("read", ({ request }) => {
  const { days } = queryOf(request, asked);
  const midnight = Math.floor(nowSeconds() / DAY) * DAY;
  const ends = Array.from({ length: days }, (_, i) => midnight - (days - 1 - i) * DAY);
  const minute = nowSeconds() - (nowSeconds() % 60);
  return engine().ask("history", { instants: [...ends, Math.max(minute, midnight)] });
});
