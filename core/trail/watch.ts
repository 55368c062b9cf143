import { z } from "zod";
import { mailAddress } from "../estate/mailAddress";
import { LABELS } from "../estate/records";
import { SEVERITIES } from "../rules/severity";
import { PARTIES } from "./event";
import { isZone } from "../time/zoned";
import { SIDES } from "./search";

export const ALERT_STATES = ["new", "seen", "settled"] as const;
export type AlertState = (typeof ALERT_STATES)[number];

/** Where messages go. */
export const CHANNELS = ["mail", "webhook", "syslog"] as const;
export type Channel = (typeof CHANNELS)[number];

/** What events are counted by, where many in a short time raise an alert. */
export const COUNTED_BY = ["person", "share", "item", "organisation"] as const;

const texts = z.array(z.string().min(1).max(300)).max(50);
const watchedSearch = z.object({
  words: z.string().max(300),
  verbs: texts,
  // A watch looks at what comes in, so it has no period.
  from: z.null(),
  to: z.null(),
  person: z.string().max(300).nullable(),
  side: z.enum(SIDES),
  item: z.string().max(300).nullable(),
  share: z.string().max(300).nullable(),
  organisations: texts,
  stores: texts,
  labels: z.array(z.enum(LABELS)).max(LABELS.length),
  parties: z.array(z.enum(PARTIES)).max(PARTIES.length),
});

const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, { error: "is not a time such as 22:00" });
const zone = z.string().refine(isZone, { error: "is not a time zone such as Europe/Lisbon" });

const telling = {
  severity: z.enum(SEVERITIES),
  /** Addresses that get a mail, and the two other channels. */
  mail: z.array(mailAddress).max(20),
  webhook: z.boolean(),
  syslog: z.boolean(),
  /** The most messages a day to each; the rest go in one digest when the day is over. */
  mostADay: z.int().min(1).max(1_000),
  /** From when to when nothing goes out; what was held goes at the end of it. */
  quiet: z.object({ from: clockTime, to: clockTime }).nullable(),
  zone,
};

export const watchSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("events"),
    search: watchedSearch,
    /** More than this many within this many seconds raise an alert; null: each one does. */
    many: z
      .object({
        moreThan: z.int().min(1).max(100_000),
        seconds: z
          .int()
          .min(60)
          .max(31 * 86_400),
        by: z.enum(COUNTED_BY),
      })
      .nullable(),
    ...telling,
  }),
  z.object({ kind: z.literal("not-opened"), days: z.int().min(1).max(365), ...telling }),
  z.object({ kind: z.literal("nothing-sent-in"), ...telling }),
  /** An owner who was asked by a rule has not answered. */
  z.object({ kind: z.literal("not-answered"), days: z.int().min(1).max(90), ...telling }),
  /** A rule wants to change more by itself than it may in an hour. */
  z.object({ kind: z.literal("held-back"), ...telling }),
]);

export type Watch = z.infer<typeof watchSchema>;
export type EventWatch = Extract<Watch, { kind: "events" }>;
export type Telling = Pick<Watch, "mostADay" | "quiet" | "zone">;
