import { z } from "zod";
import { writtenLines } from "@/core/text/written";
import { operations } from "./operation";
import { waiverView } from "./register";
import { type WaiverLine } from "@/core/register/remarks";
import { type Bar } from "@/core/rules/measures";
import { MODES, type RuleSetting } from "@/core/rules/mode";
import { type RulePreview } from "@/core/rules/preview";
import { RULE_IDS } from "@/core/rules/list";
import { type RuleLine, type RuleTrial, type RulesView } from "@/core/rules/view";

const ruleLine: z.ZodType<RuleLine> = z.object({
  id: z.enum(RULE_IDS),
  falls: z.number(),
  waived: z.number(),
  asked: z.number(),
  isOn: z.boolean(),
  mode: z.enum(MODES),
  graceDays: z.number(),
  pilot: z.number().optional(),
  parameters: z.record(z.string(), z.unknown()),
});

const rulesView: z.ZodType<RulesView> = z.object({
  rules: z.array(ruleLine),
  stopped: z.object({ by: z.string(), at: z.string() }).nullable(),
  leftThisHour: z.number(),
});

const bar: z.ZodType<Bar> = z.object({ title: z.string(), stands: z.number(), falls: z.number() });

const ruleTrial: z.ZodType<RuleTrial> = z.object({
  title: z.string(),
  bars: z.array(bar),
  cut: z.number().nullable(),
  looksAt: z.number(),
  shares: z.number(),
  items: z.number(),
  owners: z.number(),
  outsiders: z.number(),
  organisations: z.number(),
  problems: z.array(z.string()),
});

const rulePreview: z.ZodType<RulePreview> = z.object({
  words: z.string(),
  remedied: z.number(),
  previewed: z.number(),
  unremedied: z.number(),
  insiders: z.number(),
  outsiders: z.number(),
});

const ruleSetting: z.ZodType<RuleSetting> = z.object({
  isOn: z.boolean(),
  mode: z.enum(MODES),
  graceDays: z.number(),
  parameters: z.record(z.string(), z.unknown()),
});

const waiverLine: z.ZodType<WaiverLine> = waiverView.extend({
  itemName: z.string().nullable(),
  place: z.string(),
});

const ruleId = z.enum(RULE_IDS);
const waiverReason = writtenLines.min(3, "Give a reason.").max(500);
const waiverUntil = z.iso.datetime({
  precision: 0,
  error: "until: a waiver needs an end, as a time such as 2026-12-01T00:00:00Z",
});
/** Leave for some shares or items, or for all that a query finds, to break some rules, or all that they break. */
export const waiversBody = z
  .object({
    shareIds: z.array(z.string()).min(1).max(20_000).optional(),
    query: z.string().max(2_000).optional(),
    rules: z.array(ruleId).min(1).nullable(),
    reason: waiverReason,
    until: waiverUntil,
  })
  .refine(({ shareIds, query }) => (shareIds === undefined) !== (query === undefined), {
    error: "Name the shares, or give a query.",
  });

export const rulesOperations = operations({
  rules: { method: "GET", path: "/api/rules", may: "read", past: true, answer: rulesView },
  /** What a rule would find; nothing is changed. */
  tryRule: {
    method: "POST",
    path: "/api/rules/try",
    may: "save",
    past: true,
    body: z.object({ rule: ruleId, parameters: z.unknown() }),
    answer: ruleTrial,
  },
  /** What a rule would do, set so; nothing is changed. */
  previewRule: {
    method: "POST",
    path: "/api/rules/preview",
    may: "change",
    body: z.object({ rule: ruleId, setting: z.unknown() }),
    answer: z.object({
      preview: rulePreview,
      mails: z.object({
        owners: z.array(z.object({ address: z.string(), name: z.string(), findings: z.int() })),
        count: z.int(),
        ownerless: z.int(),
        /** The first of them, as it would go out; its address leads nowhere yet. */
        sample: z.object({ to: z.string(), subject: z.string(), text: z.string() }).nullable(),
      }),
      pass: z.string(),
    }),
  },
  /** Every change of a rule, the newest first. */
  ruleHistory: {
    method: "GET",
    path: "/api/rules/:id",
    may: "read",
    answer: z.object({ changes: z.array(z.object({ setting: ruleSetting, by: z.string(), at: z.string() })) }),
  },
  setRule: {
    method: "PUT",
    path: "/api/rules/:id",
    may: "change",
    body: z.object({ setting: z.unknown(), pass: z.string().max(5_000).nullable() }),
    answer: z.object({}),
  },
  /** The switch that stops all that rules do by themselves. */
  stopEnforcing: {
    method: "POST",
    path: "/api/enforcing",
    may: "change",
    body: z.object({ isStopped: z.boolean() }),
    answer: z.object({}),
  },
  /** Every waiver with what it is for, those that hold first. */
  waivers: {
    method: "GET",
    path: "/api/waivers",
    may: "read",
    past: true,
    answer: z.object({ waivers: z.array(waiverLine) }),
  },
  giveWaivers: {
    method: "POST",
    path: "/api/waivers",
    may: "change",
    fresh: true,
    body: waiversBody,
    mostBytes: 4_000_000,
    answer: z.object({ given: z.number() }),
  },
  endWaivers: {
    method: "DELETE",
    path: "/api/waivers",
    may: "change",
    body: z.object({ ids: z.array(z.int()).min(1).max(20_000) }),
    answer: z.object({}),
  },
});
