import type { RoundLine } from "@/contract/rounds";
import { LINE_STATES, type LineState } from "@/core/rounds/line";
import type { DeciderKind } from "@/core/rounds/decider";
import type { RoundStage } from "@/core/rounds/reminders";
import type { CarryingOut, RoundState, Undecided } from "@/core/rounds/round";
import { grouped } from "@/core/text/grouped";
import type { Seconds } from "@/core/time/instant";
import type { Dates } from "../parts/dates";
import { countWords } from "../parts/words";

export const STATE_WORDS: Record<LineState, string> = {
  open: "to decide",
  kept: "kept",
  tightened: "tightened",
  ended: "ended",
  gone: "gone",
  lapsed: "undecided",
};

/** The states in the order in which they are shown: what is still to do comes last. */
export const SHOWN_STATES: readonly LineState[] = [...LINE_STATES.filter((state) => state !== "open"), "open"];

/** How many lines are in each state, those in none left out: `4 kept, 2 ended`. */
export function countsWords(counts: RoundLine["counts"]): string {
  const parts = SHOWN_STATES.filter((state) => (counts[state] ?? 0) > 0).map(
    (state) => `${(counts[state] ?? 0).toLocaleString("en-GB")} ${STATE_WORDS[state]}`,
  );
  return parts.join(", ");
}

export const ROUND_STATE_WORDS: Record<RoundState, string> = {
  planned: "Planned",
  opening: "Being opened",
  open: "Open",
  closing: "Being closed",
  closed: "Closed",
  stopped: "Stopped",
};

/** Who is asked, as a slot offers it. */
export const DECIDER_WORDS: Record<DeciderKind, string> = {
  owner: "the item’s owner",
  maker: "the person who made the share",
  "space-owner": "the space’s owner",
  manager: "the owner’s manager",
  head: "the head of their department",
  named: "a named person",
};

/** `the item’s owner, else the owner’s manager`. */
export function orderWords(order: readonly DeciderKind[], named: string | null): string {
  const words = order.map((kind) => (kind === "named" && named ? named : DECIDER_WORDS[kind]));
  return words.length === 0 ? "nobody yet" : words.join(", else ");
}

export function undecidedWords(undecided: Undecided, days: number): string {
  switch (undecided) {
    case "stay":
      return "stays as it is";
    case "end-date":
      return `gets an end date in ${countWords(days, "day")}`;
    case "lock":
      return "loses editing and downloads";
    case "end":
      return "is ended";
  }
}

export const CARRYING_WORDS: Record<CarryingOut, string> = {
  finished: "as each person finishes",
  closed: "when the round closes",
  looked: "once an administrator has looked",
};

export const STAGE_WORDS: Record<RoundStage, string> = {
  opening: "When it opened",
  half: "At half time",
  "three-days": "Three days before the close",
  "one-day": "One day before the close",
  now: "Sent by hand",
  manager: "Copy to managers",
};

/** How a round stands, and when it closes or did: `Open: closes in 9 days`, `Closed on 3 Nov 2026`. */
export function standingWords(round: RoundLine, now: Seconds, dates: Dates): string {
  const between = round.state === "closed" ? " " : ": ";
  return `${ROUND_STATE_WORDS[round.state]}${between}${whenWords(round, now, dates)}`;
}

function whenWords({ state, opens, closes }: RoundLine, now: Seconds, dates: Dates): string {
  switch (state) {
    case "planned":
      return `opens on ${dates.day(opens)}, ${dates.distance(opens, now)}`;
    case "opening":
      return "its lines are being prepared";
    case "open":
      return `closes on ${dates.day(closes)}, ${dates.distance(closes, now)}`;
    case "closing":
      return "decisions are being collected";
    case "closed":
      return `on ${dates.day(closes)}`;
    case "stopped":
      return "nothing more is carried out";
  }
}

/** Rounds under one heading each: those that need somebody first. */
export function roundGroups(rounds: readonly RoundLine[]): [title: string, rounds: RoundLine[]][] {
  const titleOf = ({ state }: RoundLine): string =>
    state === "planned" ? "Upcoming" : state === "closed" || state === "stopped" ? "Over" : "Open now";
  const groups = grouped(rounds, titleOf);
  return ["Open now", "Upcoming", "Over"].flatMap((title): [string, RoundLine[]][] =>
    groups.has(title) ? [[title, groups.get(title)!]] : [],
  );
}
