import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import { type Witness, WITNESS_KINDS } from "@/core/evidence/witness";
import { dayText } from "./dates";
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

const witness: z.ZodType<Witness> = z.object({
  id: z.number(),
  kind: z.enum(WITNESS_KINDS),
  to: z.string(),
  addedAt: z.string(),
  sentSize: z.number(),
  sentAt: z.string().nullable(),
  error: z.string().nullable(),
});

const checkpoints = z.object({
  /** The newest; null before there is any. */
  newest: z.object({ size: z.number(), at: z.string(), note: z.string() }).nullable(),
  /** How many are kept here. */
  count: z.number(),
  /** A line for each key that signs or has signed, the newest first. */
  keys: z.array(z.string()),
  witnesses: z.array(witness),
});
export type Checkpoints = z.infer<typeof checkpoints>;

const keptPack = z.object({
  /** The number of its entry. */
  seq: z.number(),
  ...{ at: z.string(), by: z.string(), from: z.string().optional(), to: z.string().optional(), scope: z.string() },
  pseudonyms: z.boolean(),
  /** Null where the file isn't kept any more. */
  bytes: z.number().nullable(),
});
export type KeptPack = z.infer<typeof keptPack>;

const packs = z.object({
  packs: z.array(keptPack),
  /** The one that is being made: which file is written, how many were, and of about how many. */
  making: z.object({ from: z.string(), to: z.string(), file: z.string(), done: z.number(), of: z.number() }).nullable(),
  /** Why the last one wasn't made. */
  failure: z.string().nullable(),
});
export type Packs = z.infer<typeof packs>;

export const ledgerOperations = operations({
  entries: {
    method: "GET",
    path: "/api/ledger",
    may: "read",
    tellsOutsiders: true,
    query: z.object({
      before: z.coerce.number().int().default(Number.MAX_SAFE_INTEGER),
      /** Words that an entry speaks of: who, what, or anything that it holds. */
      q: z.string().max(200).default(""),
    }),
    /** `next` is the place before which older ones are. */
    answer: z.object({ entries: z.array(ledgerEntry), next: z.number().nullable() }),
  },
  /** Reads every entry and checks it all. */
  proof: { method: "GET", path: "/api/ledger/proof", may: "read", answer: proof },
  /** What leaves the house, so that nobody here can rewrite it. */
  checkpoints: { method: "GET", path: "/api/ledger/checkpoints", may: "read", answer: checkpoints },
  addWitness: {
    method: "POST",
    path: "/api/ledger/witnesses",
    may: "change",
    fresh: true,
    body: z.discriminatedUnion("kind", [
      z.object({ kind: z.literal("mail"), to: mailAddress }),
      z.object({ kind: z.literal("webhook"), to: z.literal("") }),
      z.object({ kind: z.literal("log"), to: z.literal("") }),
      z.object({
        kind: z.literal("stamp"),
        to: z
          .url({ protocol: /^https?$/, error: "to: is not an address such as https://stamps.home.example/" })
          .max(500),
      }),
    ]),
    answer: checkpoints,
  },
  removeWitness: {
    method: "DELETE",
    path: "/api/ledger/witnesses",
    may: "change",
    fresh: true,
    body: z.object({ id: z.int() }),
    answer: checkpoints,
  },
  /** Signs by a new key from now on. */
  changeLedgerKey: {
    method: "POST",
    path: "/api/ledger/key",
    may: "change",
    fresh: true,
    body: z.object({}),
    answer: checkpoints,
  },
  packs: { method: "GET", path: "/api/ledger/packs", may: "read", answer: packs },
  /** An auditor asks for packs too: it changes nothing but that the ledger says so. */
  makePack: {
    method: "POST",
    path: "/api/ledger/packs",
    may: "read",
    body: z.object({
      from: dayText,
      to: dayText,
      scope: z.string().trim().max(2_000).default(""),
      pseudonyms: z.boolean().default(false),
    }),
    answer: packs,
  },
  stopPack: { method: "POST", path: "/api/ledger/packs/stop", may: "read", body: z.object({}), answer: packs },
  packFile: { method: "GET", path: "/api/ledger/packs/:seq", may: "read", tellsOutsiders: true, answer: "file" },
});
