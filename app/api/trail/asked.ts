import { z } from "zod";
import { isZone } from "@/core/time/zoned";
import { parseSearch, type TrailSearch } from "@/core/trail/search";
import { pastOf } from "@/server/auth/guard";

export const zoneText = z
  .string()
  .max(64)
  .default("UTC")
  .refine(isZone, { error: "is not a time zone such as Europe/Lisbon" });

export const placeQuery = z
  .object({
    count: z.coerce.number().int().min(1).max(500).default(60),
    "before-at": z.coerce.number().int().min(0).optional(),
    "before-seq": z.coerce.number().int().min(0).optional(),
    zone: zoneText,
  })
  .transform(({ count, zone, "before-at": at, "before-seq": seq }) => {
    return { count, zone, before: at === undefined || seq === undefined ? undefined : { at, seq } };
  });

/** The search that stands in a request's address; from a past instant nothing later is found. */
export function searchOf(request: Request): TrailSearch {
  const search = parseSearch(new URL(request.url).searchParams);
  const past = pastOf(request);
  return past === undefined ? search : { ...search, to: Math.min(search.to ?? Infinity, past + 1) };
}
