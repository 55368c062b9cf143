import { z } from "zod";
import { SUGGESTIONS } from "@/core/advice/suggest";
import type { Leaver } from "@/core/leavers/leavers";
import type { LeaverSheet } from "@/core/leavers/sheet";
import { changeSchema } from "@/core/changes/change";
import { PERSON_STATES } from "@/core/estate/records";
import { RULE_IDS } from "@/core/rules/list";
import { listPage, listQuery, paging } from "./listing";
import { operations } from "./operation";
import { namedItem } from "./waysIn";

const who = {
  address: z.string(),
  name: z.string(),
  department: z.string().nullable(),
  status: z.enum(PERSON_STATES),
  since: z.number().nullable(),
  lastDay: z.number().nullable(),
};
const leaver: z.ZodType<Leaver> = z.object({
  ...who,
  owned: z.number(),
  links: z.number(),
  grants: z.number(),
  groups: z.number(),
});

/** What whoever leaves has said in our own rooms: it is ended there. */
const own = z.object({
  /** Waivers that they gave and that hold. */
  waivers: z.number(),
  /** Watches that they made and that are on. */
  watches: z.number(),
});
export type LeaverOwn = z.infer<typeof own>;

const lastDay = z.object({ at: z.number(), reason: z.string(), setBy: z.string(), setAt: z.number() });

const sheet: z.ZodType<LeaverSheet> = z.object({
  leaver: z.object(who),
  heir: z.object({ address: z.string(), name: z.string(), as: z.enum(["manager", "head"]) }).nullable(),
  owned: z.array(namedItem),
  ownedCount: z.number(),
  links: z.array(
    z.object({
      id: z.string(),
      item: z.string(),
      place: z.array(z.string()),
      sentence: z.string(),
      suggested: z
        .object({ suggest: z.enum(SUGGESTIONS), until: z.number().nullable(), because: z.array(z.enum(RULE_IDS)) })
        .nullable(),
      ways: z.array(z.object({ key: z.string(), words: z.string(), changes: z.array(changeSchema) })),
    }),
  ),
  held: z.number(),
});

const leaverTold = z.object({
  sheet,
  own,
  /** Their last day, where it was said here. */
  lastDay: lastDay.nullable(),
});
export type LeaverTold = z.infer<typeof leaverTold>;

const address = z.string().trim().min(1).max(320);

export const leaversOperations = operations({
  /** Everybody who is known to leave, or isn't active here any more and of whom something still stands. */
  leavers: {
    method: "GET",
    path: "/api/leavers",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object({ ...listQuery, ...paging }),
    answer: listPage(leaver),
  },
  leaversFile: {
    method: "GET",
    path: "/api/leavers/file",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object(listQuery),
    answer: "file",
  },
  leaver: {
    method: "GET",
    path: "/api/leavers/one",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object({ address }),
    answer: leaverTold,
  },
  /** Ends the waivers that a leaver gave, and switches their watches off. */
  endOwn: {
    method: "POST",
    path: "/api/leavers/own/end",
    may: "change",
    body: z.object({ address, waivers: z.number(), watches: z.number() }),
    answer: own,
  },
  setLastDay: {
    method: "PUT",
    path: "/api/leavers/last-day",
    may: "change",
    body: z.object({
      address,
      /** Their last instant here. */
      day: z.iso.datetime({ precision: 0, error: "day: must be a time such as 2026-12-12T23:59:59Z" }),
      reason: z
        .string()
        .trim()
        .min(1, "reason: say where this is known from: whoever reads the ledger will ask.")
        .max(500),
    }),
    answer: z.object({}),
  },
  /** What directories and stores tell of somebody's last day counts again. */
  dropLastDay: {
    method: "DELETE",
    path: "/api/leavers/last-day",
    may: "change",
    body: z.object({ address }),
    answer: z.object({}),
  },
});
