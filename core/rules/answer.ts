import { z } from "zod";
import { writtenLines } from "../text/written";
import { mailAddress } from "../estate/mailAddress";
import type { ChangeState } from "../changes/states";
import type { RuleId } from "./list";

const subject = z.string().min(1).max(500);

/** What an owner decides about one share: keep it for a reason until a day, tighten it as proposed, make it for named people, or end it. */
export const answerSchema = z.discriminatedUnion("decision", [
  z.object({
    decision: z.literal("keep"),
    subject,
    reason: writtenLines.min(3, "Give a reason.").max(500),
    until: z.iso.datetime({ precision: 0, error: "until: must be a time such as 2026-12-01T00:00:00Z" }),
  }),
  z.object({ decision: z.literal("tighten"), subject }),
  z.object({ decision: z.literal("end"), subject }),
  z.object({
    decision: z.literal("named"),
    subject,
    addresses: z.array(mailAddress).min(1, "Name somebody.").max(50),
  }),
]);
export const DECISIONS = ["keep", "tighten", "named", "end"] as const satisfies readonly Answer["decision"][];
export type Answer = z.infer<typeof answerSchema>;

/** A share or an item that an owner is asked about. */
export interface AskedShare {
  subject: string;
  itemName: string;
  where: string;
  sentence: string;
  audience: string;
  lastUsed: number | null;
  /** Why the owner is asked, rule by rule. */
  reasons: { rule: RuleId; title: string; reason: string }[];
  /** What tightening would do, in words; null where only ending it would help. */
  tighten: string[] | null;
  /** Whether making it for named people would fix everything that is wrong with it. */
  canBeNamed: boolean;
  /** Whether it can be ended from here: an item can't, its shares can. */
  canEnd: boolean;
  due: number;
  /** What was answered, or what became of it; null while it is open. */
  answered: string | null;
  /** What is being done on the answer, step by step. */
  steps: AnsweredStep[];
}

export interface AnsweredStep {
  words: string;
  state: ChangeState;
  answer: string | null;
  /** The token to fetch a passphrase that is waiting to be shown; null where there is none. */
  passphrase: string | null;
}

/** Everything that one letter asks its owner. */
export interface AskedPage {
  owner: string;
  shares: AskedShare[];
  /** The longest that a waiver from here lasts. */
  latest: number;
}
