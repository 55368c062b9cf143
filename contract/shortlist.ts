import { z } from "zod";
import { ACTS, OPENINGS } from "@/core/advice/candidate";
import { parseScope } from "@/core/advice/scope";
import type { Curve, LineView, PointView } from "@/core/advice/view";
import { weighingSchema } from "@/core/advice/weighing";
import { digest } from "./dockets";
import { operations } from "./operation";
import { registerRow } from "./register";

/** More changes than these are counted, and not looked through for whom they touch. */
export const MOST_LOOKED_THROUGH = 2_000;
/** So many can be put into a tray at once. */
export const MOST_STAGED = 20_000;

const curvePoint = z.object({ changes: z.number(), price: z.number(), left: z.number(), byRisk: z.number() });

const curve: z.ZodType<Curve> = z.object({
  title: z.string(),
  mass: z.number(),
  files: z.number(),
  points: z.array(curvePoint),
  bend: z.number(),
});

const group = z.object({
  key: z.string(),
  act: z.enum(ACTS),
  opening: z.enum(OPENINGS),
  isUsed: z.boolean(),
  isRunning: z.boolean(),
  changes: z.number(),
  price: z.number(),
  together: z.number(),
  takes: z.number(),
});

const namedAct = z.object({ shareId: z.string(), itemName: z.string(), act: z.enum(ACTS) });

const point: z.ZodType<PointView> = curvePoint.extend({
  groups: z.array(group),
  files: z.object({ shut: z.number(), lessOpen: z.number(), open: z.number() }),
  used: z.number(),
  running: z.number(),
  next: z.object({ changes: z.number(), price: z.number(), left: z.number(), first: namedAct }).nullable(),
  digest,
});

/** Who has used one share lately: the first of them by name, and how many; and whether somebody has whom no store names. */
const usedBy = z.object({ names: z.array(z.string()), people: z.number(), unnamed: z.boolean() });
export type UsedBy = z.infer<typeof usedBy>;

const line = z.object({
  row: registerRow,
  act: z.enum(ACTS),
  price: z.number(),
  files: z.number(),
  others: z.array(z.object({ shareId: z.string(), words: z.string() })),
  othersCount: z.number(),
  usedBy,
}) satisfies z.ZodType<LineView>;
export type ShortlistLine = z.infer<typeof line>;

/** Who has used any of some shares lately, and how many of them somebody has whom no store names. */
const lately = z.object({ people: z.number(), unnamed: z.number() });

/** Whom the changes of a point touch. */
const touched = z.object({
  lately,
  /** Who would reach less, and of how many organisations; null where there are too many changes to look through. */
  losing: z.object({ outsiders: z.number(), insiders: z.number(), organisations: z.number() }).nullable(),
});
export type Touched = z.infer<typeof touched>;

/** Where to start, in a line; and how much was open a month ago, or since we have looked. */
const start = z.object({
  /** Null where nothing is open. */
  bend: z.object({ changes: z.number(), left: z.number(), lately }).nullable(),
  mass: z.number(),
  /** In how many days a use counts as of lately. */
  usedDays: z.number(),
  before: z.object({ day: z.string(), mass: z.number(), afterwards: z.boolean() }).nullable(),
});
export type WhereToStart = z.infer<typeof start>;

const scope = z
  .string()
  .max(700)
  .default("everything")
  .transform((text, context) => {
    const parsed = parseScope(text);
    if (parsed) return parsed;
    context.addIssue({
      code: "custom",
      message: "takes everything, or store:, owner:, label: or engagement: with what is meant",
    });
    return z.NEVER;
  });
const scoped = z.object({ scope });
/** A point, by how many changes it has at most. */
const pointed = scoped.extend({ changes: z.coerce.number().int().min(0).max(10_000_000) });

export const shortlistOperations = operations({
  /** The curve of what stays open against what it costs. */
  curve: { method: "GET", path: "/api/shortlist", may: "read", query: scoped, answer: curve },
  curvePoint: { method: "GET", path: "/api/shortlist/point", may: "read", query: pointed, answer: point },
  pointLines: {
    method: "GET",
    path: "/api/shortlist/lines",
    may: "read",
    tellsOutsiders: true,
    query: pointed.extend({
      /** Of all groups, where none is named. */
      group: z.string().max(60).nullable().default(null),
      from: z.coerce.number().int().min(0).default(0),
      count: z.coerce.number().int().min(1).max(200).default(50),
    }),
    answer: z.object({ count: z.number(), lines: z.array(line) }),
  },
  pointTouches: {
    method: "GET",
    path: "/api/shortlist/touched",
    may: "read",
    tellsOutsiders: true,
    query: pointed,
    answer: touched,
  },
  /** Puts the changes of a point into the tray: just those that were shown, or none. */
  stagePoint: {
    method: "POST",
    path: "/api/shortlist/stage",
    may: "change",
    body: pointed.extend({ digest }),
    answer: z.object({ unknown: z.array(z.string()), left: z.record(z.string(), z.number()) }),
  },
  whereToStart: { method: "GET", path: "/api/shortlist/start", may: "read", answer: start },
  weighing: {
    method: "GET",
    path: "/api/shortlist/weighing",
    may: "read",
    answer: z.object({ weighing: weighingSchema }),
  },
  setWeighing: {
    method: "PUT",
    path: "/api/shortlist/weighing",
    may: "change",
    body: weighingSchema,
    answer: z.object({}),
  },
});
