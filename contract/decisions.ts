import { z } from "zod";
import { SUGGESTIONS } from "@/core/advice/suggest";
import { CHANGE_STATES } from "@/core/changes/states";
import { LABELS } from "@/core/estate/records";
import { decisionSchema } from "@/core/rounds/decision";
import { LINE_STATES, MOST_PASSED_ON } from "@/core/rounds/line";
import { ROUND_STATES, UNDECIDED, CARRYING, QUESTIONS } from "@/core/rounds/round";
import { RULE_IDS } from "@/core/rules/list";
import { writtenLines } from "@/core/text/written";
import { mailAddress } from "@/core/estate/mailAddress";
import { toldIn } from "./dates";
import { digest } from "./dockets";
import { operations } from "./operation";

/** So many lines can be decided by one press. */
export const MOST_TOGETHER = 2_000;
/** So many lines are on one page. */
export const LINES_A_PAGE = 500;

const shareId = z.string().min(1).max(500);

/** What became of a line on what was decided, step by step. */
const step = z.object({
  words: z.string(),
  state: z.enum(CHANGE_STATES),
  answer: z.string().nullable(),
  /** By which a passphrase is asked for that waits to be shown; null where none does. */
  passphrase: z.string().nullable(),
});

/** One line as whoever decides about it sees it. Instants are seconds. */
const decidedLine = z.object({
  shareId,
  itemName: z.string(),
  /** The store and the folders above the item, as one text. */
  place: z.string(),
  sentence: z.string(),
  /** What it was when it was asked about before, where it has changed since; else null. */
  before: z.string().nullable(),
  audience: z.string(),
  audienceKey: z.string(),
  audienceTitle: z.string(),
  label: z.enum(LABELS).nullable(),
  files: z.number(),
  lastUsed: z.number().nullable(),
  /** Whether its store tells when it is used. */
  isUseTold: z.boolean(),
  /** How many people used it lately, as far as its store names them. */
  usedBy: z.number(),
  suggest: z.enum(SUGGESTIONS).nullable(),
  suggestedUntil: z.number().nullable(),
  reasons: z.array(z.object({ rule: z.enum(RULE_IDS), title: z.string(), reason: z.string() })),
  tightenings: z.array(z.object({ key: z.string(), words: z.string() })),
  state: z.enum(LINE_STATES),
  /** Of a line that was decided: what. */
  decision: decisionSchema.nullable(),
  /** Whether it is final. */
  isSettled: z.boolean(),
  /** By which a decision says what it is about. */
  asked: z.string(),
  /** How often it may still be passed on. */
  passes: z.number().int().max(MOST_PASSED_ON),
  steps: z.array(step),
});
export type DecidedLine = z.infer<typeof decidedLine>;

const page = z.object({
  round: z.number(),
  name: z.string(),
  note: z.string(),
  state: z.enum(ROUND_STATES),
  person: z.string(),
  closes: z.number(),
  by: z.enum(QUESTIONS),
  undecided: z.enum(UNDECIDED),
  undecidedDays: z.number(),
  carriedOut: z.enum(CARRYING),
  /** For how many days a share can be kept at most. */
  limitDays: z.number(),
  /** When they said that they had finished; null where they haven't, or have got more lines since. */
  finished: z.number().nullable(),
  /** All of theirs, of which the page has the first. */
  total: z.number(),
  open: z.number(),
  lines: z.array(decidedLine),
  /** By the key of each audience: how many different files its lines reach. */
  files: z.record(z.string(), z.number()),
});
export type DecidersPage = z.infer<typeof page>;

/** What came of deciding some lines: a line of each that could not be decided, with why. */
const decidedAnswer = z.object({
  decided: z.number(),
  not: z.array(z.object({ shareId, why: z.string() })),
});
export type DecidedAnswer = z.infer<typeof decidedAnswer>;

/** What finishing would do. */
const finishing = z.object({
  kept: z.number(),
  tightened: z.number(),
  ended: z.number(),
  open: z.number(),
  /** What the engine says of the changes. */
  words: z.array(z.string()),
  digest,
});
export type Finishing = z.infer<typeof finishing>;

const lines = z
  .array(z.strictObject({ shareId, asked: z.string().max(100) }))
  .min(1)
  .max(MOST_TOGETHER);
const shares = z.array(shareId).min(1).max(MOST_TOGETHER);
const passing = {
  shares,
  to: mailAddress,
  reason: writtenLines.min(3, "Give a reason: they will read it.").max(500),
};

/** What whoever decides can do, for whom it is known by what is in the body. */
function decidingOperations<const P extends string, M extends "anybody" | "own", W extends z.ZodRawShape>(
  path: P,
  may: M,
  who: W,
) {
  const common = { method: "POST", may } as const;
  return operations({
    page: { ...common, path: `/api/${path}/page`, body: z.object({ ...who, dates: toldIn }), answer: page },
    decide: {
      ...common,
      path: `/api/${path}/decide`,
      body: z.object({ ...who, lines, decision: decisionSchema }),
      mostBytes: 2_000_000,
      answer: decidedAnswer,
    },
    passOn: {
      ...common,
      path: `/api/${path}/pass-on`,
      body: z.object({ ...who, ...passing }),
      mostBytes: 2_000_000,
      answer: decidedAnswer,
    },
    finishing: { ...common, path: `/api/${path}/finishing`, body: z.object(who), answer: finishing },
    finish: { ...common, path: `/api/${path}/finish`, body: z.object({ ...who, digest }), answer: z.object({}) },
    showPassphrase: {
      ...common,
      path: `/api/${path}/passphrase`,
      body: z.object({ ...who, change: z.string().max(100) }),
      answer: z.object({ passphrase: z.string() }),
    },
  } as const);
}

/** For whoever holds the address in a mail: it goes in the body, where no log has it. */
export const decideOperations = decidingOperations("decide", "anybody", { token: z.string().max(700) });

/** For whoever signs in. */
export const myDecisionsOperations = decidingOperations("my-shares", "own", { round: z.number().int().positive() });

/** Rounds in which whoever signs in decides. */
const myRound = z.object({
  round: z.number(),
  name: z.string(),
  state: z.enum(ROUND_STATES),
  closes: z.number(),
  lines: z.number(),
  open: z.number(),
});
export type MyRound = z.infer<typeof myRound>;

/** Who decides in somebody's place. */
const myDeputy = z.object({ id: z.number(), deputy: z.string(), from: z.number(), until: z.number() });
export type MyDeputy = z.infer<typeof myDeputy>;

const instant = z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-12T17:00:00Z" });

export const mySharesOperations = operations({
  myRounds: { method: "GET", path: "/api/my-shares", may: "own", answer: z.array(myRound) },
  myDeputies: { method: "GET", path: "/api/my-shares/deputies", may: "own", answer: z.array(myDeputy) },
  nameMyDeputy: {
    method: "POST",
    path: "/api/my-shares/deputies",
    may: "own",
    body: z.object({ deputy: mailAddress, from: instant, until: instant }),
    answer: z.object({}),
  },
  endMyDeputy: { method: "DELETE", path: "/api/my-shares/deputies/:id", may: "own", answer: z.object({}) },
});
