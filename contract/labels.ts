import { z } from "zod";
import { LABELS } from "@/core/estate/records";
import { writtenLine } from "@/core/text/written";
import { operations } from "./operation";
import { namedItem } from "./waysIn";

const rule = z.object({
  label: z.enum(LABELS),
  on: z.enum(["place", "name", "store"]),
  /** Id of an item or a store, or a pattern of names. */
  of: writtenLine.min(1, "Choose what to label.").max(500),
});

const set = rule.extend({
  id: z.int(),
  setBy: z.string(),
  setAt: z.number(),
  /** What it is for, by its name; null where that is no longer known. */
  words: z.string().nullable(),
});
export type LabelRuleTold = z.infer<typeof set>;

/** Items that get another label, from which to which, with some of them. */
const outlook = z.object({
  count: z.int(),
  turns: z.array(z.object({ from: z.enum(LABELS), to: z.enum(LABELS), count: z.int(), items: z.array(namedItem) })),
});
export type LabelOutlookTold = z.infer<typeof outlook>;

export const labelsOperations = operations({
  labelRules: { method: "GET", path: "/api/labels", may: "read", answer: z.object({ rules: z.array(set) }) },
  /** What a rule, or ending one, would change; nothing is. */
  lookAtLabels: {
    method: "POST",
    path: "/api/labels/look",
    may: "change",
    body: z.union([z.object({ rule }), z.object({ ends: z.int() })]),
    answer: outlook,
  },
  /** @see lookAtLabels for `count`, which says what was shown */
  setLabelRule: {
    method: "POST",
    path: "/api/labels",
    may: "change",
    fresh: true,
    body: z.object({ rule, count: z.int() }),
    answer: z.object({}),
  },
  endLabelRule: {
    method: "DELETE",
    path: "/api/labels",
    may: "change",
    fresh: true,
    body: z.object({ id: z.int(), count: z.int() }),
    answer: z.object({}),
  },
});
