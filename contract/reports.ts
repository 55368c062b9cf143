import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import { parseSubject, type Report, type ReportSection, type ReportTable } from "@/core/evidence/report";
import { SCHEDULED, EVERY, type ReportSchedule } from "@/core/evidence/schedule";
import { dayText } from "./dates";
import { operations } from "./operation";

const subject = z
  .string({ error: "about: say what it is about" })
  .max(700)
  .refine((text) => parseSubject(text) !== null, {
    error: "about: must be item:, share:, person: or organisation: with what is meant",
  });

/** What each kind of report is asked with. Days are of UTC. */
const reportAsked = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("state"), day: dayText }),
  z.object({ kind: z.literal("open"), day: dayText }),
  z.object({ kind: z.literal("reach"), day: dayText, about: subject }),
  z.object({ kind: z.literal("round"), round: z.coerce.number<string>("round: must be a round’s number").int() }),
  z.object({ kind: z.literal("taken"), about: subject, from: dayText, to: dayText }),
  z.object({ kind: z.literal("controls"), from: dayText, to: dayText }),
]);
export type ReportAsked = z.infer<typeof reportAsked>;

/** The same as it stands in an address, where everything is text. */
const parameters = z.object({
  kind: z.string(),
  ...{ day: z.string().optional(), about: z.string().optional(), round: z.string().optional() },
  ...{ from: z.string().optional(), to: z.string().optional() },
});
const asked = parameters.pipe(reportAsked);

const table: z.ZodType<ReportTable> = z.object({
  heads: z.array(z.string()),
  rows: z.array(z.array(z.string())),
  figures: z.array(z.number()),
  left: z.number(),
});

const section: z.ZodType<ReportSection> = z.object({
  ...{ title: z.string(), words: z.string() },
  chart: z
    .object({
      labels: z.array(z.string()),
      lines: z.array(z.object({ name: z.string(), values: z.array(z.number()) })),
    })
    .optional(),
  table: table.optional(),
});

const report: z.ZodType<Report> = z.object({ title: z.string(), words: z.string(), sections: z.array(section) });

const schedule: z.ZodType<ReportSchedule> = z.object({
  ...{ id: z.number(), kind: z.enum(SCHEDULED), every: z.enum(EVERY), to: z.string(), addedBy: z.string() },
  ...{ nextAt: z.number(), sentAt: z.number().nullable(), error: z.string().nullable() },
});
const schedules = z.array(schedule);

export const reportsOperations = operations({
  /** With the first rows of its tables. */
  report: { method: "GET", path: "/api/reports", may: "read", tellsOutsiders: true, query: asked, answer: report },
  reportPdf: {
    method: "GET",
    path: "/api/reports/pdf",
    may: "read",
    tellsOutsiders: true,
    query: asked,
    answer: "file",
  },
  /** One of its tables, whole, as CSV: by the place of its section. */
  reportTable: {
    method: "GET",
    path: "/api/reports/table",
    may: "read",
    tellsOutsiders: true,
    query: parameters
      .extend({ section: z.coerce.number().int().min(0) })
      .transform(({ section, ...given }) => ({ section, asked: given }))
      .pipe(z.object({ section: z.number(), asked: reportAsked })),
    answer: "file",
  },
  schedules: { method: "GET", path: "/api/reports/schedules", may: "read", answer: schedules },
  addSchedule: {
    method: "POST",
    path: "/api/reports/schedules",
    may: "change",
    body: z.object({ kind: z.enum(SCHEDULED), every: z.enum(EVERY), to: mailAddress }),
    answer: schedules,
  },
  removeSchedule: {
    method: "DELETE",
    path: "/api/reports/schedules",
    may: "change",
    body: z.object({ id: z.int() }),
    answer: schedules,
  },
});
