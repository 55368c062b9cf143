import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import type { EngagementLine } from "@/core/engagements/asking";
import type { EngagementShare, EngagementTold } from "@/core/engagements/engagements";
import { writtenLines } from "@/core/text/written";
import { listPage, listQuery, paging } from "./listing";
import { operations } from "./operation";
import { namedItem } from "./waysIn";

const facts = {
  id: z.string(),
  name: z.string(),
  organisations: z.array(z.string()),
  items: z.number(),
  starts: z.number(),
  ends: z.number(),
  shares: z.number(),
  used: z.number(),
};
const told: z.ZodType<EngagementTold> = z.object(facts);

/** What is kept of an engagement that was made here; one that a file or a store tells of has none of it. */
const kept = z.object({ responsible: z.string(), madeBy: z.string(), madeAt: z.number() });

const line: z.ZodType<EngagementLine> = z.object({ ...facts, responsible: z.string().nullable() });

const share: z.ZodType<EngagementShare> = z.object({
  id: z.string(),
  item: z.string(),
  place: z.array(z.string()),
  sentence: z.string(),
  organisations: z.array(z.string()),
  lastUsed: z.number().nullable(),
});

const extension = z.object({
  from: z.number(),
  until: z.number(),
  reason: z.string(),
  by: z.string(),
  at: z.number(),
});

const page = z.object({
  engagement: told,
  kept: kept.nullable(),
  items: z.array(namedItem),
  shares: z.array(share),
  strays: z.array(share),
  extensions: z.array(extension),
  /** So many days after the end a docket waits. */
  graceDays: z.number(),
});
export type EngagementPage = z.infer<typeof page>;

const instant = z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-12T17:00:00Z" });
const domain = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[^\s.@]+(\.[^\s.@]+)+$/, { error: "An organisation is named by its domain, such as quay.example." });
const given = {
  name: z.string().trim().min(1, "name: give it one that others will know.").max(200),
  itemIds: z.array(z.string().min(1).max(500)).min(1, "items: choose at least one.").max(500),
  organisations: z.array(domain).min(1, "organisations: name at least one, by its domain.").max(200),
  starts: instant,
  ends: instant,
  /** Who answers for it. */
  responsible: mailAddress,
};
/** The end is changed by itself, with a reason. */
const { ends: _, ...withoutEnd } = given;
const id = z.string().min(1).max(500);
const reason = writtenLines.min(3, "reason: give one; it is recorded in the ledger.").max(500);
const byLetter = { method: "POST", may: "anybody" } as const;
const token = z.string().max(1_000);

/** What whoever answers for an engagement is shown before it ends. */
const asked = z.object({
  name: z.string(),
  organisations: z.array(z.string()),
  ends: z.number(),
  graceDays: z.number(),
  shares: z.array(share),
  /** The latest day that it can be extended to. */
  latest: z.number(),
});
export type EngagementAsked = z.infer<typeof asked>;

export const engagementsOperations = operations({
  engagements: {
    method: "GET",
    path: "/api/engagements",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object({ ...listQuery, ...paging }),
    answer: listPage(line),
  },
  engagementsFile: {
    method: "GET",
    path: "/api/engagements/file",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object(listQuery),
    answer: "file",
  },
  engagement: {
    method: "GET",
    path: "/api/engagements/one",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object({ id }),
    answer: page,
  },
  makeEngagement: {
    method: "POST",
    path: "/api/engagements",
    may: "change",
    body: z.object(given),
    answer: z.object({ id: z.string() }),
  },
  changeEngagement: {
    method: "PUT",
    path: "/api/engagements/one",
    may: "change",
    body: z.object({ id, ...withoutEnd }),
    answer: z.object({}),
  },
  extendEngagement: {
    method: "PUT",
    path: "/api/engagements/end",
    may: "change",
    body: z.object({ id, ends: instant, reason }),
    answer: z.object({}),
  },
  /** Ends it now. */
  endEngagement: {
    method: "POST",
    path: "/api/engagements/end",
    may: "change",
    body: z.object({ id }),
    answer: z.object({}),
  },
  /** All ends, as a calendar. */
  engagementDates: { method: "GET", path: "/api/engagements/dates", may: "read", answer: "file" },
  engagementAsked: { ...byLetter, path: "/api/engagements/asked", body: z.object({ token }), answer: asked },
  engagementExtended: {
    ...byLetter,
    path: "/api/engagements/asked/extend",
    body: z.object({ token, ends: instant, reason }),
    answer: asked,
  },
  engagementLetEnd: { ...byLetter, path: "/api/engagements/asked/let-end", body: z.object({ token }), answer: asked },
});
