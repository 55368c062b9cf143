import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import type { Forecast } from "@/core/rounds/forecast";
import { DECISIONS, LINE_STATES } from "@/core/rounds/line";
import { ROUND_STAGES } from "@/core/rounds/reminders";
import { ROUND_STATES, roundSchema } from "@/core/rounds/round";
import { writtenLines } from "@/core/text/written";
import { operations } from "./operation";

const instant = z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-12T17:00:00Z" });
const counts = z.record(z.enum(LINE_STATES), z.number());
/** A number in the address. */
const count = z.number();

const line = z.object({
  id: z.number(),
  name: z.string(),
  state: z.enum(ROUND_STATES),
  /** Instants are seconds. */
  opens: z.number(),
  closes: z.number(),
  repeats: z.string().nullable(),
  lines: count,
  counts,
  deciders: count,
  /** Deciders who still have lines to decide. */
  late: count,
});
export type RoundLine = z.infer<typeof line>;

const quality = z.object({
  overruled: count,
  medianSeconds: z.number().nullable(),
  isUnlooked: z.boolean(),
});

/** How far one decider has come. */
const decider = z.object({
  address: z.string(),
  name: z.string(),
  department: z.string(),
  counts,
  lines: count,
  finished: z.number().nullable(),
  /** When they were last written to; null where never. */
  written: z.number().nullable(),
  quality,
});
export type DeciderView = z.infer<typeof decider>;

const look = z.object({
  id: z.number(),
  percent: z.number(),
  /** In thousandths. */
  confidence: z.number(),
  seed: z.string(),
  of: count,
  size: count,
  decided: count,
  /** Of those looked at again: how many were decided otherwise. */
  differ: count,
  madeBy: z.string(),
  madeAt: z.number(),
});
export type LookView = z.infer<typeof look>;

const round = line.extend({
  asked: roundSchema,
  repeatWords: z.string().nullable(),
  madeBy: z.string(),
  openedAt: z.number().nullable(),
  closedAt: z.number().nullable(),
  endedBy: z.string().nullable(),
  hash: z.string().nullable(),
  docketId: z.string().nullable(),
  /** Lines that are left to the administrators, since nobody else can decide them. */
  nobodys: count,
  changed: count,
  passed: count,
  departments: z.array(z.object({ department: z.string(), lines: count, decided: count })),
  /** The round of its series before, to compare with. */
  before: z.object({ id: z.number(), closed: z.number().nullable(), lines: count, counts }).nullable(),
  next: z.object({ id: z.number(), opens: z.number() }).nullable(),
  mails: z.array(z.object({ stage: z.enum(ROUND_STAGES), people: count, at: z.number() })),
  looks: z.array(look),
});
export type RoundView = z.infer<typeof round>;

/** One decision as it came. */
const decision = z.object({
  shareId: z.string(),
  itemName: z.string(),
  place: z.string(),
  audience: z.string(),
  state: z.enum(LINE_STATES),
  until: z.number().nullable(),
  reason: z.string().nullable(),
  suggested: z.string().nullable(),
  decider: z.string(),
  by: z.string().nullable(),
  at: z.number().nullable(),
  docketId: z.string().nullable(),
  isChanged: z.boolean(),
  isPassed: z.boolean(),
});
export type DecisionView = z.infer<typeof decision>;

const forecast: z.ZodType<Forecast> = z.object({
  lines: count,
  deciders: count,
  nobodys: count,
  most: z.array(z.object({ address: z.string(), name: z.string(), lines: count })),
});

const lookLine = z.object({
  shareId: z.string(),
  itemName: z.string(),
  place: z.string(),
  sentence: z.string(),
  suggest: z.string().nullable(),
  reasons: z.array(z.string()),
  lastUsed: z.number().nullable(),
  decision: z.enum(DECISIONS).nullable(),
});
export type LookLine = z.infer<typeof lookLine>;

const deputy = z.object({
  id: z.number(),
  person: z.string(),
  deputy: z.string(),
  from: z.number(),
  until: z.number(),
});
const standIns = z.object({
  heads: z.array(z.object({ department: z.string(), person: z.string().nullable(), name: z.string().nullable() })),
  deputies: z.array(deputy),
});
export type StandIns = z.infer<typeof standIns>;

const nothing = z.object({});
const id = z.object({ id: z.number() });

export const roundsOperations = operations({
  rounds: { method: "GET", path: "/api/rounds", may: "read", answer: z.array(line) },
  round: { method: "GET", path: "/api/rounds/one/:id", may: "read", answer: round },
  deciders: {
    method: "GET",
    path: "/api/rounds/one/:id/deciders",
    may: "read",
    query: z.object({ from: z.coerce.number().int().min(0).default(0) }),
    answer: z.object({ total: count, deciders: z.array(decider) }),
  },
  roundLines: {
    method: "GET",
    path: "/api/rounds/one/:id/lines",
    may: "read",
    tellsOutsiders: true,
    query: z.object({
      from: z.coerce.number().int().min(0).default(0),
      state: z.enum(LINE_STATES).optional(),
      decider: z.string().max(320).optional(),
    }),
    answer: z.object({ total: count, lines: z.array(decision) }),
  },
  forecastRound: {
    method: "POST",
    path: "/api/rounds/forecast",
    may: "change",
    body: roundSchema.pick({ query: true, order: true, named: true }),
    answer: forecast,
  },
  makeRound: { method: "POST", path: "/api/rounds", may: "change", body: roundSchema, answer: id },
  remindRound: {
    method: "POST",
    path: "/api/rounds/one/:id/remind",
    may: "change",
    body: z.object({ people: z.array(mailAddress).max(5_000).nullable() }),
    answer: z.object({ people: count }),
  },
  extendRound: {
    method: "POST",
    path: "/api/rounds/one/:id/extend",
    may: "change",
    body: z.object({ closes: instant }),
    answer: nothing,
  },
  handOverLines: {
    method: "POST",
    path: "/api/rounds/one/:id/hand-over",
    may: "change",
    body: z.object({
      from: z.union([mailAddress, z.literal("")]),
      to: mailAddress,
      reason: writtenLines.min(3, "Give a reason: they will read it.").max(500),
    }),
    answer: z.object({ moved: count, not: z.array(z.object({ shareId: z.string(), why: z.string() })) }),
  },
  closeRound: { method: "POST", path: "/api/rounds/one/:id/close", may: "change", fresh: true, answer: nothing },
  stopRound: { method: "POST", path: "/api/rounds/one/:id/stop", may: "change", answer: nothing },

  drawLook: {
    method: "POST",
    path: "/api/rounds/one/:id/looks",
    may: "change",
    body: z.object({
      percent: z.int().min(1, "must be 1 to 100").max(100, "must be 1 to 100"),
      /** In thousandths. */
      confidence: z.int().min(1, "must be above 0").max(1_000, "must be at most 1"),
    }),
    answer: id,
  },
  lookLines: {
    method: "GET",
    path: "/api/rounds/looks/:id",
    may: "read",
    tellsOutsiders: true,
    answer: z.object({ look, lines: z.array(lookLine) }),
  },
  decideLook: {
    method: "POST",
    path: "/api/rounds/looks/:id/decide",
    may: "change",
    body: z.object({ shares: z.array(z.string().min(1).max(500)).min(1).max(2_000), decision: z.enum(DECISIONS) }),
    answer: nothing,
  },

  standIns: { method: "GET", path: "/api/rounds/stand-ins", may: "read", answer: standIns },
  setHead: {
    method: "PUT",
    path: "/api/rounds/heads",
    may: "change",
    body: z.object({ department: z.string().min(1).max(200), person: mailAddress.nullable() }),
    answer: nothing,
  },
  nameDeputy: {
    method: "POST",
    path: "/api/rounds/deputies",
    may: "change",
    body: z.object({ person: mailAddress, deputy: mailAddress, from: instant, until: instant }),
    answer: nothing,
  },
  endDeputy: { method: "DELETE", path: "/api/rounds/deputies/:id", may: "change", answer: nothing },
});
