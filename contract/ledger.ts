import { z } from "zod";
import { operations } from "./operation";
import type { LedgerEntry } from "@/core/ledger/chain";
import type { Proof } from "@/core/ledger/check";

const ledgerEntry: z.ZodType<LedgerEntry> = z.object({
  seq: z.number(),
  previous: z.string(),
  hash: z.string(),
  at: z.string(),
  actor: z.string(),
  kind: z.string(),
  body: z.unknown(),
});

const proof: z.ZodType<Proof> = z.union([
  z.object({ unbroken: z.literal(true), entries: z.number(), root: z.string() }),
  z.object({ unbroken: z.literal(false), seq: z.number(), why: z.string() }),
]);

export const ledgerOperations = operations({
  entries: {
    method: "GET",
    path: "/api/ledger",
    may: "read",
    query: z.object({
      before: z.coerce.number().int().default(Number.MAX_SAFE_INTEGER),
      /** Words that an entry speaks of: who, what, or anything that it holds. */
      q: z.string().max(200).default(""),
    }),
    /** `next` is the place before which older ones are. */
    answer: z.object({ entries: z.array(ledgerEntry), next: z.number().nullable() }),
  },
  proof: { method: "GET", path: "/api/ledger/proof", may: "read", answer: proof },
});
