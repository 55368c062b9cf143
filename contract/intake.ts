import { z } from "zod";
import { MARKS } from "@/core/intake/marks";
import { RULE_IDS } from "@/core/rules/list";
import { operations } from "./operation";

const intakeLink = z.object({
  ...{ id: z.string(), itemId: z.string(), itemName: z.string(), storeName: z.string(), place: z.array(z.string()) },
  ...{ opens: z.number().nullable(), ends: z.number().nullable(), password: z.boolean() },
  ...{ files: z.number(), folders: z.number(), others: z.number(), outside: z.number(), readers: z.number() },
  answers: z.object({ name: z.string(), address: z.string() }).nullable(),
  can: z.object({ linkPassword: z.boolean(), startTime: z.boolean(), words: z.boolean() }),
  /** What visitors read; null where that is the store's own text, undefined where nobody tells. */
  message: z.string().nullable().optional(),
  /** How many files came in, as far as events tell, and when the last one did. */
  came: z.number(),
  lastCame: z.number().nullable(),
  findings: z.array(z.object({ rule: z.enum(RULE_IDS), title: z.string() })),
});
export type IntakeTold = z.infer<typeof intakeLink>;

const arrival = z.object({
  ...{ seq: z.number(), at: z.number(), linkId: z.string().nullable(), itemName: z.string(), storeName: z.string() },
  ...{ name: z.string().nullable(), size: z.number().nullable(), sender: z.string().nullable() },
  ...{ address: z.string().nullable(), from: z.string().nullable(), mediaType: z.string().nullable() },
  /** Whether its store tells hashes and first bytes. */
  tellsBytes: z.boolean(),
  marks: z.array(z.enum(MARKS)),
});
export type ArrivalTold = z.infer<typeof arrival>;

export const intakeOperations = operations({
  intakeLinks: {
    method: "GET",
    path: "/api/intake",
    may: "read",
    answer: z.object({
      links: z.array(intakeLink),
      /** The house's own words, to begin with. */
      words: z.string(),
    }),
  },
  /** What came in over all intake links, the newest first. */
  cameIn: {
    method: "GET",
    path: "/api/intake/came-in",
    may: "read",
    tellsOutsiders: true,
    query: z.object({
      link: z.string().max(500).optional(),
      /** Only what has one mark or more. */
      marked: z.literal("yes").optional(),
      /** Those that came before the one of this number. */
      before: z.coerce.number().int().optional(),
    }),
    answer: z.object({
      arrivals: z.array(arrival),
      /** How many there are in all; and by which number to ask for more, null where there are none. */
      total: z.number(),
      more: z.number().nullable(),
    }),
  },
});
