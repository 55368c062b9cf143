import { z } from "zod";
import { writtenLine, writtenLines } from "@/core/text/written";
import { mailAddress } from "@/core/estate/mailAddress";
import { zoneText } from "./dates";
import { operations } from "./operation";
import { SEVERITIES } from "@/core/rules/severity";
import { type Alert } from "@/core/trail/alert";
import { type WatchLine } from "@/core/trail/savedWatch";
import { ALERT_STATES, watchSchema } from "@/core/trail/watch";

export const alert: z.ZodType<Alert> = z.object({
  id: z.number(),
  watch: z.string().nullable(),
  severity: z.enum(SEVERITIES),
  state: z.enum(ALERT_STATES),
  firstAt: z.number(),
  lastAt: z.number(),
  count: z.number(),
  shareId: z.string().nullable(),
  itemId: z.string().nullable(),
  person: z.string().nullable(),
  words: z.string(),
  assignedTo: z.string().nullable(),
  settledBy: z.string().nullable(),
  settledAt: z.string().nullable(),
  note: z.string().nullable(),
});

const watchLine: z.ZodType<WatchLine> = z.object({
  id: z.string(),
  name: z.string(),
  watch: watchSchema,
  isOn: z.boolean(),
  since: z.number(),
  madeBy: z.string(),
  open: z.number(),
  held: z.number(),
  aside: z.number(),
});

/** So many are listed at most, and so many are dealt with at once. */
export const MOST_ALERTS = 500;

export const alertsOperations = operations({
  alerts: {
    method: "GET",
    path: "/api/alerts",
    may: "read",
    tellsOutsiders: true,
    query: z.object({ state: z.enum(ALERT_STATES).optional() }),
    answer: z.object({ alerts: z.array(alert) }),
  },
  /** How many alerts are new, whenever that changes. */
  alertNews: {
    method: "GET",
    path: "/api/alerts/events",
    may: "read",
    answer: { events: z.object({ fresh: z.number() }) },
  },
  alert: { method: "GET", path: "/api/alerts/:id", may: "read", tellsOutsiders: true, answer: alert },
  /** Does the same with each of some alerts: all of them or, where one isn't there, none. */
  handleAlerts: {
    method: "POST",
    path: "/api/alerts",
    may: "change",
    body: z.object({
      ids: z.array(z.int().positive()).min(1).max(MOST_ALERTS),
      does: z.discriminatedUnion("act", [
        z.object({ act: z.literal("see") }),
        z.object({
          act: z.literal("settle"),
          note: writtenLines.min(1, "Say in a few words why it is settled.").max(1_000),
        }),
        z.object({ act: z.literal("reopen") }),
        z.object({ act: z.literal("assign"), to: mailAddress.nullable() }),
      ]),
    }),
    answer: z.object({}),
  },
  /** Marks one alert as seen, for whoever holds the mail that offers it; nothing is told of the alert. */
  seeByMail: {
    method: "POST",
    path: "/api/seen",
    may: "anybody",
    body: z.object({ token: z.string().max(500) }),
    answer: z.object({}),
  },
  watches: {
    method: "GET",
    path: "/api/watches",
    may: "read",
    answer: z.object({ watches: z.array(watchLine) }),
  },
  saveWatch: {
    method: "POST",
    path: "/api/watches",
    may: "change",
    body: z.object({
      id: z.string().max(60).optional(),
      name: writtenLine.min(1, "A watch needs a name.").max(120),
      watch: watchSchema,
      isOn: z.boolean(),
    }),
    answer: z.object({ id: z.string() }),
  },
  /** Switches some watches on or off. */
  turnWatches: {
    method: "PUT",
    path: "/api/watches",
    may: "change",
    body: z.object({ ids: z.array(z.string().max(60)).min(1).max(1_000), isOn: z.boolean() }),
    answer: z.object({}),
  },
  dropWatch: { method: "DELETE", path: "/api/watches/:id", may: "change", answer: z.object({}) },
  /** Lets what a watch holds back go out now, in one digest for each who is told. */
  releaseHeld: {
    method: "POST",
    path: "/api/watches/:id/release",
    may: "change",
    answer: z.object({ released: z.number() }),
  },
  addShipped: {
    method: "POST",
    path: "/api/watches/shipped",
    may: "change",
    body: z.object({ zone: zoneText }),
    answer: z.object({ kept: z.number() }),
  },
  /** What a watch would have raised, had it been on; null where that can't be said. */
  testWatch: {
    method: "POST",
    path: "/api/watches/test",
    may: "read",
    body: z.object({ watch: watchSchema, days: z.int().min(1).max(400).default(90) }),
    answer: z.object({ alerts: z.number().nullable(), days: z.number() }),
  },
});
