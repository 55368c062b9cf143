import { z } from "zod";
import { DATE_STYLES, type DateSettings, WEEK_STARTS } from "@/core/time/style";
import { isZone } from "@/core/time/zoned";

export const zoneText = z.string().max(64).refine(isZone, { error: "is not a time zone such as Europe/Lisbon" });

/** A day of UTC. */
export const dayText = z.iso.date("must be a day such as 2026-11-30");

/** By which clocks and in which style days in sentences are told. */
export const toldIn = z.object({ zone: zoneText.default("UTC"), style: z.enum(DATE_STYLES).default("day-first") });

/** How somebody wants to be told times. */
export const dateSettings = z.object({
  zone: zoneText,
  style: z.enum(DATE_STYLES),
  weekStart: z.literal(WEEK_STARTS),
}) satisfies z.ZodType<DateSettings>;
