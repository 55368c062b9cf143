import { z } from "zod";
import { SUGGESTIONS } from "@/core/advice/suggest";
import type { Leaver } from "@/core/leavers/leavers";
import type { LeaverSheet } from "@/core/leavers/sheet";
import { RULE_IDS } from "@/core/rules/list";
import { operations } from "./operation";
import { namedItem } from "./waysIn";

const who = {
  address: z.string(),
  name: z.string(),
  department: z.string().nullable(),
  status: z.enum(["suspended", "left"]),
  leftAt: z.number().nullable(),
};
const leaver: z.ZodType<Leaver> = z.object({ ...who, owned: z.number(), links: z.number(), held: z.number() });

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
    }),
  ),
  held: z.number(),
});

export const leaversOperations = operations({
  /** Everybody who isn't active here any more and of whom something still stands. */
  leavers: {
    method: "GET",
    path: "/api/leavers",
    may: "read",
    past: true,
    answer: z.object({ leavers: z.array(leaver) }),
  },
  leaver: {
    method: "GET",
    path: "/api/leavers/one",
    may: "read",
    past: true,
    query: z.object({ address: z.string().trim().min(1).max(320) }),
    answer: sheet,
  },
});
