import { z } from "zod";
import { answerSchema } from "@/core/rules/answer";
import { operations } from "./operation";
import { CHANGE_STATES } from "@/core/changes/states";
import { type AnsweredStep, type AskedPage, type AskedShare } from "@/core/rules/answer";
import { RULE_IDS } from "@/core/rules/list";

const answeredStep: z.ZodType<AnsweredStep> = z.object({
  words: z.string(),
  state: z.enum(CHANGE_STATES),
  answer: z.string().nullable(),
  passphrase: z.string().nullable(),
});

const askedShare: z.ZodType<AskedShare> = z.object({
  subject: z.string(),
  itemName: z.string(),
  where: z.string(),
  sentence: z.string(),
  audience: z.string(),
  lastUsed: z.number().nullable(),
  reasons: z.array(z.object({ rule: z.enum(RULE_IDS), title: z.string(), reason: z.string() })),
  tighten: z.array(z.string()).nullable(),
  canBeNamed: z.boolean(),
  canEnd: z.boolean(),
  due: z.number(),
  answered: z.string().nullable(),
  steps: z.array(answeredStep),
});

const askedPage: z.ZodType<AskedPage> = z.object({
  owner: z.string(),
  shares: z.array(askedShare),
  latest: z.number(),
});

/** The address goes in the body, where no log has it. */
const token = z.string().max(500);
const byLetter = { method: "POST", may: "anybody" } as const;

/** For whoever holds the address of a letter: nobody signs in, and only that letter is in reach. */
export const answersOperations = operations({
  asked: { ...byLetter, path: "/api/answers", body: z.object({ token }), answer: askedPage },
  decide: {
    ...byLetter,
    path: "/api/answers/decide",
    body: z.object({ token, answer: answerSchema }),
    answer: z.object({}),
  },
  /** The passphrase that an owner's own answer set, once. */
  showToOwner: {
    ...byLetter,
    path: "/api/answers/passphrase",
    body: z.object({ token, change: z.string().max(100) }),
    answer: z.object({ passphrase: z.string() }),
  },
});
