import { z } from "zod";
import { toldIn } from "./dates";
import { operations } from "./operation";
import { alert } from "./alerts";
import { LATCHES } from "@/core/changes/latches";
import { LABELS } from "@/core/estate/records";
import { type Tightness } from "@/core/register/tightness";

/** Something that wants attention, in a sentence, and where it is seen to. */
const deskLine = z.object({
  words: z.string(),
  href: z.string(),
  /** What is wrong, against what is merely to be known. */
  isPressing: z.boolean(),
});
export type DeskLine = z.infer<typeof deskLine>;

const tightness: z.ZodType<Tightness> = z.object({
  label: z.enum(LABELS),
  latch: z.enum(LATCHES),
  shut: z.number(),
  should: z.number(),
});

/** What the Desk shows, the most urgent first. */
const desk = z.object({
  /** When whoever looks did so last; null at the first time. */
  lookedBefore: z.string().nullable(),
  alerts: z.array(alert),
  lines: z.array(deskLine),
  tightness: z.array(tightness),
});
export type Desk = z.infer<typeof desk>;

export const deskOperations = operations({
  /** Says also that somebody looks now. */
  lookAtDesk: { method: "POST", path: "/api/desk", may: "save", query: toldIn, answer: desk },
  /** The days on which something ends by itself, as a calendar. */
  dates: { method: "GET", path: "/api/desk/dates", may: "read", answer: "file" },
});
