import { z } from "zod";
import { INSIDER_COLUMNS, type Insider } from "@/core/directory/insiders";
import { LIST_KINDS } from "@/core/directory/list";
import { OUTCOMES } from "@/core/directory/reading";
import type { PersonTold } from "@/core/directory/person";
import { TOLD } from "@/core/estate/believed";
import { PERSON_STATES } from "@/core/estate/records";
import { listOrder, listPage, listQuery, paging } from "./listing";
import { operations } from "./operation";

/** Every source of what is known, those that are believed first before the others. */
const source = z.object({
  name: z.string(),
  /** What it is called: a store by the name that people use. */
  title: z.string(),
  kind: z.enum(["store", "import", "directory"]),
  firstToldAt: z.string(),
});
export type SourceTold = z.infer<typeof source>;

const sources = z.object({
  sources: z.array(source),
  /** After so many days of suspension somebody counts as having left. */
  leftAfterDays: z.number(),
});

/** What a directory is called: the same word each time. */
export const directoryName = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,39}$/, "must be 1 to 40 lower-case letters, digits and hyphens, such as personnel")
  .refine((name) => name !== "settings", { error: "is reserved; choose another" });

/** As much as a list of some hundred thousand people takes. */
const MOST_BYTES = 64 * 1024 * 1024;
const given = {
  directory: directoryName,
  kind: z.enum(LIST_KINDS),
  /** What the file is called. */
  file: z.string().trim().min(1).max(200),
  text: z.string().max(MOST_BYTES),
};

const problem = z.object({ line: z.number(), message: z.string() });
const outlook = z.object({
  problems: z.array(problem),
  remarks: z.array(problem),
  counts: z.partialRecord(z.enum(OUTCOMES), z.number()),
  turns: z.array(z.object({ address: z.string(), name: z.string(), outcome: z.enum(OUTCOMES), words: z.string() })),
  /** How many memberships in groups begin, and end. */
  joined: z.number(),
  gone: z.number(),
  brake: z.object({ inactive: z.number(), active: z.number() }).nullable(),
  digest: z.string(),
});
export type OutlookTold = z.infer<typeof outlook>;

const insider: z.ZodType<Insider> = z.object({
  address: z.string(),
  name: z.string(),
  status: z.enum(PERSON_STATES),
  department: z.string().nullable(),
  manager: z.string().nullable(),
  lastDay: z.number().nullable(),
  sources: z.array(z.string()),
});

const somebody = z.object({ name: z.string(), address: z.string() });
const person: z.ZodType<PersonTold> = z.object({
  address: z.string(),
  name: z.string(),
  insider: z.boolean(),
  organisation: z.string(),
  status: z.enum(PERSON_STATES),
  department: z.string().nullable(),
  manager: somebody.nullable(),
  lastDay: z.number().nullable(),
  said: z.array(
    z.object({
      source: z.string(),
      name: z.string(),
      status: z.enum(PERSON_STATES).nullable(),
      department: z.string().nullable(),
      manager: z.string().nullable(),
      lastDay: z.number().nullable(),
      suspendedAt: z.number().nullable(),
      believed: z.array(z.enum(TOLD)),
    }),
  ),
  groups: z.array(z.object({ name: z.string(), store: z.string().nullable() })),
  manages: z.array(somebody),
});

/** What the list of insiders is asked for by, as it stands in an address. */
const asked = { ...listQuery, ...listOrder(INSIDER_COLUMNS, "name") };
export type InsidersAsked = z.output<z.ZodObject<typeof asked>>;

export const directoryOperations = operations({
  sources: { method: "GET", path: "/api/sources", may: "read", answer: sources },
  /** Whom to believe first: whoever is active, and which organisations are trusted, may follow from it. */
  setBelief: {
    method: "PUT",
    path: "/api/sources/order",
    may: "change",
    fresh: true,
    body: z.object({ order: z.array(z.string().max(100)).max(1_000) }),
    answer: sources,
  },
  setLeftAfter: {
    method: "PUT",
    path: "/api/directories/left-after",
    may: "change",
    body: z.object({ days: z.int().min(1, "days: at least 1.").max(3_650, "days: at most 3650.") }),
    answer: sources,
  },
  /** What reading a list would change; nothing is. */
  lookAtList: {
    method: "POST",
    path: "/api/directories/look",
    may: "change",
    mostBytes: MOST_BYTES,
    body: z.object(given),
    answer: outlook,
  },
  /** How far the list is that whoever asks has compared or read; null where there is none. */
  listNow: {
    method: "GET",
    path: "/api/directories/now",
    may: "change",
    answer: z.object({ step: z.object({ words: z.string(), done: z.number() }).nullable() }),
  },
  stopList: {
    method: "POST",
    path: "/api/directories/stop",
    may: "change",
    body: z.object({}),
    answer: z.object({}),
  },
  readList: {
    method: "POST",
    path: "/api/directories/read",
    may: "change",
    mostBytes: MOST_BYTES,
    body: z.object({
      ...given,
      /** Of what was shown. */
      digest: z.string().max(64),
      /** How many are left inactive, where that is so many that somebody has to say that it is right. */
      inactive: z.int().min(0).nullable(),
    }),
    answer: outlook,
  },
  insiders: {
    method: "GET",
    path: "/api/insiders",
    may: "read",
    past: true,
    query: z.object({ ...asked, ...paging }),
    answer: listPage(insider),
  },
  insidersFile: {
    method: "GET",
    path: "/api/insiders/file",
    may: "read",
    past: true,
    query: z.object(asked),
    answer: "file",
  },
  person: {
    method: "GET",
    path: "/api/insiders/one",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object({ address: z.string().trim().min(1).max(320) }),
    answer: person,
  },
});
