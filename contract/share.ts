import { z } from "zod";
import { writtenLines } from "@/core/text/written";
import { toldIn } from "./dates";
import { operations } from "./operation";
import { personEffect } from "./preview";
import { note, registerRow, waiverView } from "./register";
import { changeSchema } from "@/core/changes/change";
import { LATCHES } from "@/core/changes/latches";
import { LABELS } from "@/core/estate/records";
import { type IfGone, type LatchControl, type ShareView } from "@/core/preview/shareDetail";
import { type ShareEvent } from "@/core/register/history";
import { type Remedy } from "@/core/rules/remedies";
import { RULE_IDS } from "@/core/rules/list";

const remedy: z.ZodType<Remedy> = z.object({
  words: z.string(),
  changes: z.array(changeSchema),
  asks: z.enum(["addresses", "end", "round"]).nullable(),
  why: z.string().nullable(),
});

const shareEvent: z.ZodType<ShareEvent> = z.object({ at: z.number(), words: z.string() });

const ifGone: z.ZodType<IfGone> = z.object({
  words: z.string(),
  lose: z.array(personEffect),
  losers: z.number(),
  keep: z.array(personEffect),
  keepers: z.number(),
});

const latchControl: z.ZodType<LatchControl> = z.object({ words: z.string(), why: z.string().nullable() });

const shareView: z.ZodType<ShareView> = z.object({
  row: registerRow,
  sentence: z.string(),
  label: z.object({ label: z.enum(LABELS), from: z.string() }),
  hasAddress: z.boolean(),
  findings: z.array(
    z.object({ rule: z.enum(RULE_IDS), title: z.string(), reason: z.string(), remedies: z.array(remedy) }),
  ),
  history: z.array(shareEvent),
  itemFindings: z.array(z.object({ rule: z.enum(RULE_IDS), title: z.string(), remedies: z.array(remedy) })),
  recipients: z.array(
    z.object({
      email: z.string(),
      firstOpenedAt: z.string().nullable().optional(),
      lastOpenedAt: z.string().nullable().optional(),
      downloads: z.number().nullable().optional(),
    }),
  ),
  tellsRecipientUse: z.boolean(),
  others: z.array(z.object({ id: z.string(), words: z.string(), at: z.string() })),
  ifGone: ifGone,
  controls: z.record(z.enum(LATCHES), latchControl),
  notes: z.array(note),
  waivers: z.array(waiverView),
});

export const noteBody = z.object({ text: writtenLines.min(1, "Write something.").max(2_000) });

export const shareOperations = operations({
  share: {
    method: "GET",
    path: "/api/shares/:id",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: toldIn,
    answer: shareView,
  },
  /** A share that is over, as it was: who ended it and when, and by which docket of ours. */
  endedShare: {
    method: "GET",
    path: "/api/shares/:id/ended",
    may: "read",
    tellsOutsiders: true,
    answer: z.object({
      itemName: z.string(),
      audience: z.string(),
      endedAt: z.string().nullable(),
      by: z.string().nullable(),
      docketId: z.string().nullable(),
    }),
  },
  /** The live address of one link, for whoever has to look: it is written down who was shown it. */
  showAddress: {
    method: "POST",
    path: "/api/shares/:id/address",
    may: "change",
    answer: z.object({ address: z.string() }),
  },
  leaveNote: {
    method: "POST",
    path: "/api/shares/:id/notes",
    may: "change",
    body: noteBody,
    answer: z.object({}),
  },
});
