import { z } from "zod";
import { CHOICES, type ChoiceField } from "@/core/imports/field";
import { ENCODINGS, SEPARATORS } from "@/core/imports/file";
import { mappingName, mappingSchema } from "@/core/imports/mapping";
import { writtenLine } from "@/core/text/written";
import { operations } from "./operation";

/** As much as a report of a million rows takes. */
const MOST_BYTES = 300 * 1024 * 1024;

/** As whose word a report counts: the same name each time. */
const source = mappingName.refine((name) => name !== "settings", { error: "is reserved; choose another" });

const reading = {
  encoding: z.enum(ENCODINGS),
  separator: z.enum(SEPARATORS),
  sheet: z.string().max(200).nullable(),
};

const saved = z.object({
  name: z.string(),
  source: z.string(),
  title: z.string(),
  mapping: mappingSchema,
  savedBy: z.string(),
  savedAt: z.number(),
});
export type SavedMappingTold = z.output<typeof saved>;

const look = z.object({
  file: z.string(),
  isWorkbook: z.boolean(),
  ...reading,
  sheets: z.array(z.string()),
  rows: z.array(z.array(z.string())),
  count: z.number(),
});
export type LookTold = z.infer<typeof look>;

const row = z.object({ line: z.number(), message: z.string() });
const counts = z.object({ fresh: z.number(), changed: z.number(), same: z.number() });
const outlook = z.object({
  ...{ rows: z.number(), understood: z.number(), refused: z.number(), left: z.number() },
  ...{ inherited: z.number(), remarked: z.number() },
  ...{ problems: z.array(row), leftOut: z.array(row), remarks: z.array(row) },
  unmapped: z.array(
    z.object({
      field: z.enum(Object.keys(CHOICES) as [ChoiceField, ...ChoiceField[]]),
      text: z.string(),
      rows: z.number(),
    }),
  ),
  ...{ items: counts, shares: counts },
  ended: z.array(z.object({ item: z.string(), audience: z.string() })),
  endedCount: z.number(),
  held: z.number(),
  unknownGroups: z.array(z.string()),
  digest: z.string(),
  /** So many shares would end that somebody has to say that it is right. */
  isHeld: z.boolean(),
});
export type ReportOutlookTold = z.infer<typeof outlook>;

/** The report that somebody has at hand, and what is being done with it. */
const hand = z.object({
  file: z.string(),
  step: z.object({ words: z.string(), done: z.number() }).nullable(),
  problem: z.string().nullable(),
  outlook: outlook.nullable(),
  /** Since when the very same report is imported. */
  unchangedSince: z.number().nullable(),
  imported: z
    .object({
      ...{ file: z.string(), changed: z.number(), ended: z.number(), ticked: z.number() },
      isStopped: z.boolean(),
    })
    .nullable(),
});
export type HandTold = z.infer<typeof hand>;

const run = z.object({
  id: z.number(),
  ...{ source: z.string(), file: z.string(), mapping: z.string(), by: z.string(), at: z.number() },
  state: z.enum(["going", "done", "stopped"]),
  ...{ rows: z.number(), skipped: z.number(), changed: z.number(), ended: z.number() },
});

const nothing = z.object({});

export const importsOperations = operations({
  /** What has been imported, and how reports are read. */
  imports: {
    method: "GET",
    path: "/api/imports",
    may: "read",
    answer: z.object({ runs: z.array(run), mappings: z.array(saved) }),
  },
  removeMapping: { method: "DELETE", path: "/api/imports/mappings/:name", may: "change", answer: nothing },
  /** Sends a report’s file, and looks at it. Nothing of it counts before it is imported. */
  sendReport: {
    method: "POST",
    path: "/api/imports/file",
    may: "change",
    sentBy: "file",
    mostBytes: MOST_BYTES,
    query: z.object({ name: z.string().trim().min(1).max(200) }),
    answer: look,
  },
  /** Looks at it again, read otherwise. */
  lookAtReport: {
    method: "POST",
    path: "/api/imports/look",
    may: "change",
    body: z.object(reading).partial(),
    answer: look,
  },
  /** Begins to find out what importing it would change; `reportNow` tells. */
  checkReport: {
    method: "POST",
    path: "/api/imports/check",
    may: "change",
    body: z.object({ source, title: writtenLine.min(1, "Name the store.").max(100), mapping: mappingSchema }),
    answer: nothing,
  },
  reportNow: { method: "GET", path: "/api/imports/now", may: "change", answer: z.object({ hand: hand.nullable() }) },
  /** Begins to import it as it was checked. */
  takeReport: {
    method: "POST",
    path: "/api/imports/take",
    may: "change",
    body: z.object({
      /** Of what was shown. */
      digest: z.string().max(64),
      /** Under which name its mapping is kept. */
      mapping: mappingName,
      /** Whether rows that can’t be read are skipped. */
      skips: z.boolean(),
      /** How many shares end, where that is so many that somebody has to say that it is right. */
      ended: z.int().min(0).nullable(),
    }),
    answer: nothing,
  },
  stopReport: { method: "POST", path: "/api/imports/stop", may: "change", body: nothing, answer: nothing },
});
