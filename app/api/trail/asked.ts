import { z } from "zod";
import { isZone } from "@/core/time/zoned";
import type { Seconds } from "@/core/time/instant";
import { parseSearch, searchProblems, type TrailSearch } from "@/core/trail/search";
import type { App } from "@/server/app";
import { pastOf } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";

export const zoneText = z
  .string()
  .max(64)
  .default("UTC")
  .refine(isZone, { error: "is not a time zone such as Europe/Lisbon" });

export const placeQuery = z
  .object({
    count: z.coerce.number().int().min(1).max(500).default(60),
    "before-at": z.coerce.number().int().optional(),
    "before-seq": z.coerce.number().int().min(0).optional(),
    zone: zoneText,
  })
  .transform(({ count, zone, "before-at": at, "before-seq": seq }) => {
    return { count, zone, before: at === undefined || seq === undefined ? undefined : { at, seq } };
  });

/** The search that stands in a request's address. @throws {Problem} where something in it isn't understood */
export function searchOf(app: App, request: Request): TrailSearch {
  return searchIn(new URL(request.url).searchParams, pastOf(app, request));
}

/** From a past instant nothing later is found. @throws {Problem} where something in it isn't understood */
export function searchIn(parameters: URLSearchParams, past: Seconds | undefined): TrailSearch {
  const problems = searchProblems(parameters);
  if (problems.length > 0) throw new Problem("bad", `Nothing was looked for: ${problems.join("; ")}.`);
  const search = parseSearch(parameters);
  return past === undefined ? search : { ...search, to: Math.min(search.to ?? Infinity, past + 1) };
}
