import { z } from "zod";
import { DATE_STYLES, type DateSettings, WEEK_STARTS } from "@/core/time/style";
import { isZone } from "@/core/time/zoned";

export const zoneText = z.string().max(64).refine(isZone, { error: "is not a time zone such as Europe/Lisbon" });

/** How somebody wants to be told times. */
export const dateSettings = z.object({
  zone: zoneText,
  style: z.enum(DATE_STYLES),
  weekStart: z.literal(WEEK_STARTS),
}) satisfies z.ZodType<DateSettings>;
