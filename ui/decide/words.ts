import type { DecidedLine, DecidersPage } from "@/contract/decisions";
import type { Decision } from "@/core/rounds/decision";
import type { Undecided } from "@/core/rounds/round";
import { seconds, type Seconds } from "@/core/time/instant";
import { within } from "@/core/text/text";
import type { Dates } from "../parts/dates";
import { countWords, listWords } from "../parts/words";

/** How long most people take over one line. */
const SECONDS_A_LINE = 20;

/** `It takes about three minutes.` */
export function timeWords(lines: number): string {
  const minutes = Math.ceil((lines * SECONDS_A_LINE) / 60);
  const names = ["a minute", "two minutes", "three minutes", "four minutes", "five minutes"];
  return `It takes about ${names[minutes - 1] ?? `${minutes} minutes`}.`;
}

export function headline({ open, total, state, closes }: DecidersPage, dates: Dates): string {
  if (state === "stopped") return "This round has been stopped";
  if (state !== "open") return `${countWords(total, "share")} of yours: all decided`;
  if (open === 0) return "You have decided everything";
  return `${countWords(open, "of your shares needs", "of your shares need")} a decision by ${dates.day(closes)}`;
}

const UNDECIDED: Record<Undecided, (days: number) => string> = {
  stay: () => "stays as it is",
  "end-date": (days) => `ends ${countWords(days, "day")} later`,
  lock: () => "can no longer be edited or downloaded from",
  end: () => "is ended",
};

/** What becomes of what nobody decides, as the end of a sentence. */
export function undecidedWords({ undecided, undecidedDays }: Pick<DecidersPage, "undecided" | "undecidedDays">) {
  return UNDECIDED[undecided](undecidedDays);
}

/** Who used it and when, as far as that is known. */
export function usedWords({ lastUsed, isUseTold, usedBy }: DecidedLine, now: Seconds, dates: Dates): string {
  if (!isUseTold) return "Its store doesn’t say who uses it.";
  if (lastUsed === null) return "Nobody has ever used it.";
  const people = usedBy > 0 ? `, in the last 90 days by ${countWords(usedBy, "person", "people")}` : "";
  return `Last used ${dates.distance(lastUsed, now)}${people}.`;
}

/** What is suggested, and why. */
export function suggestionWords({ suggest, suggestedUntil, reasons }: DecidedLine, dates: Dates): string {
  const because = listWords(reasons.map(({ title }) => within(title)));
  switch (suggest) {
    case "end":
      return `End it: ${because}.`;
    case "tighten":
      return `Tighten it: ${because}.`;
    case "keep":
      return `It can stay${suggestedUntil === null ? "" : ` until ${dates.day(suggestedUntil)}`}: nothing is wrong with it.`;
    case null:
      return "Only your own people reach it, so there is no suggestion.";
  }
}

/** What somebody has decided about a line. */
export function decisionWords(decision: Decision, { tightenings, steps }: DecidedLine, dates: Dates): string {
  switch (decision.decision) {
    case "keep":
      return `Keep until ${dates.day(seconds(decision.until))}${decision.reason ? `: ${decision.reason}` : ""}`;
    case "tighten": {
      const way = tightenings.find(({ key }) => key === decision.way)?.words;
      return way ? `Tighten: ${within(way)}` : steps.length > 0 ? "Tightened" : "Tighten";
    }
    case "end":
      return "End";
  }
}

/** What became of a line that is final and that nobody decided. */
export const OUTCOMES: Partial<Record<DecidedLine["state"], string>> = {
  gone: "Ended: it no longer lets anyone in, so there is nothing to decide.",
  lapsed: "Nobody decided in time.",
};
