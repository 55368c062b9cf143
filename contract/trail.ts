import { z } from "zod";
import { parseSearch, searchProblems } from "@/core/trail/search";
import { zoneText } from "./dates";
import { operations } from "./operation";
import { LABELS } from "@/core/estate/records";
import { PARTIES, REMARKS, type TrailEvent, type Spoken } from "@/core/trail/event";
import { type TrailCounts, type TrailFacets, type TrailHistogram, type ValueCount } from "@/core/trail/counts";
import { type EventGroupLine, type EventPlace, type EventsPage, type GroupsPage } from "@/core/trail/page";

const spoken: z.ZodType<Spoken> = z.object({
  kind: z.enum(["person", "item", "share", "other"]),
  key: z.string(),
  name: z.string(),
  detail: z.string(),
  label: z.enum(LABELS).optional(),
  path: z.array(z.string()).optional(),
  people: z.array(z.string()).optional(),
  organisations: z.array(z.string()).optional(),
  parties: z.array(z.enum(PARTIES)).optional(),
});

const event: z.ZodType<TrailEvent> = z.object({
  seq: z.number(),
  at: z.number(),
  source: z.string(),
  verb: z.string(),
  remarks: z.array(z.enum(REMARKS)),
  item: spoken.nullable(),
  share: spoken.nullable(),
  who: spoken.nullable(),
  whom: spoken.nullable(),
});

const eventPlace: z.ZodType<EventPlace> = z.object({ at: z.number(), seq: z.number() });

const eventsPage: z.ZodType<EventsPage> = z.object({ events: z.array(event), next: eventPlace.nullable() });

const eventGroupLine: z.ZodType<EventGroupLine> = z.object({
  event: event,
  first: z.number(),
  count: z.number(),
  people: z.number(),
});

const groupsPage: z.ZodType<GroupsPage> = z.object({ groups: z.array(eventGroupLine), next: eventPlace.nullable() });

const trailHistogram: z.ZodType<TrailHistogram> = z.object({
  by: z.enum(["day", "hour"]),
  edges: z.array(z.number()),
  counts: z.array(z.number()),
});

const valueCount: z.ZodType<ValueCount> = z.object({ value: z.string(), count: z.number() });

const trailCounts: z.ZodType<TrailCounts> = z.object({
  found: z.number(),
  total: z.number(),
  histogram: trailHistogram,
  verbs: z.array(valueCount),
  stores: z.array(valueCount),
});

const trailFacets: z.ZodType<TrailFacets> = z.object({
  organisations: z.object({ values: z.number(), top: z.array(valueCount) }),
  people: z.object({ values: z.number(), top: z.array(valueCount) }),
  labels: z.object({ values: z.number(), top: z.array(valueCount) }),
  parties: z.object({ values: z.number(), top: z.array(valueCount) }),
});

/** A search as `printSearch` writes it. */
const searchText = z
  .string()
  .max(5_000)
  .default("")
  .transform((text, context) => {
    const parameters = new URLSearchParams(text);
    const problems = searchProblems(parameters);
    if (problems.length === 0) return parseSearch(parameters);
    context.addIssue({ code: "custom", message: `Nothing was searched: ${problems.join("; ")}.` });
    return z.NEVER;
  });
const zone = zoneText.default("UTC");
const searchAtPlace = z.object({
  search: searchText,
  count: z.coerce.number().int().min(1).max(500).default(60),
  /** Only what came before an event: its instant and number. */
  at: z.coerce.number().int().optional(),
  seq: z.coerce.number().int().min(0).optional(),
  zone,
});
export const TRAIL_FORMATS = ["csv", "jsonl"] as const;

export const trailOperations = operations({
  events: {
    method: "GET",
    path: "/api/trail",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: searchAtPlace,
    answer: eventsPage,
  },
  eventGroups: {
    method: "GET",
    path: "/api/trail/groups",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: searchAtPlace,
    answer: groupsPage,
  },
  eventCounts: {
    method: "GET",
    path: "/api/trail/counts",
    may: "read",
    past: true,
    query: z.object({ search: searchText, zone }),
    answer: trailCounts,
  },
  eventFacets: {
    method: "GET",
    path: "/api/trail/facets",
    may: "read",
    past: true,
    query: z.object({ search: searchText }),
    answer: trailFacets,
  },
  exportTrail: {
    method: "POST",
    path: "/api/trail/export",
    may: "read",
    past: true,
    sentBy: "form",
    body: z.object({ search: searchText, format: z.enum(TRAIL_FORMATS) }),
    answer: "file",
  },
});
