"use client";

import { useState } from "react";
import type { Seconds } from "@/core/time/instant";
import { dayEnd, dayStart, understand } from "@/core/time/understand";
import type { Dates } from "./dates";
import { useDates } from "./useDates";

/** What can be chosen, and what a text means. */
export interface MomentRules {
  now: Seconds;
  /** What a day without a time means: its first second or its last. */
  edge: "start" | "end";
  /** Where a text leaves the year open: what is to come, or what has been. */
  toward?: "future" | "past";
  min?: Seconds;
  max?: Seconds;
  /** Why nothing earlier can be chosen, as a sentence; the earliest moment is told after it. */
  whyMin?: string;
  /** By other clocks than the person's own. */
  zone?: string;
  /** Days alone are chosen: what was understood is told without a time. */
  wholeDays?: boolean;
  /** Nothing need be chosen. */
  optional?: boolean;
}

export interface Moment {
  text: string;
  setText: (text: string) => void;
  /** What is chosen; null where nothing is, or what is written can't be taken. */
  at: Seconds | null;
  /** Why it can't be taken, and what can; null where it can. */
  problem: string | null;
  /** What was understood, in words; empty where nothing was. */
  meaning: string;
  rules: MomentRules;
  dates: Dates;
}

/**
 * A moment that somebody types or picks.
 * @param first what stands in the field at first: `in 30 days`, or a moment as they would write it
 */
export function useMoment(first: string, rules: MomentRules): Moment {
  const dates = useDates(rules.zone);
  const [text, setText] = useState(first);
  const at = instantOf(text, rules, dates);
  const problem = problemOf(text, at, rules, dates);
  const words = (moment: Seconds) => (rules.wholeDays ? dates.day(moment) : dates.zoned(moment));
  const meaning = at === null ? "" : `${dates.weekday(at)} ${words(at)}, ${dates.distance(at, rules.now)}`;
  return { text, setText, at: problem === null ? at : null, problem, meaning, rules, dates };
}

function instantOf(text: string, { now, edge, toward = "future" }: MomentRules, { settings }: Dates): Seconds | null {
  const found = understand(text, { now, dates: settings, toward });
  if (found === null) return null;
  if (found.kind === "moment") return found.at;
  return edge === "end" ? dayEnd(found, settings.zone) : dayStart(found, settings.zone);
}

function problemOf(text: string, at: Seconds | null, rules: MomentRules, dates: Dates): string | null {
  const { now, min, max, whyMin, optional } = rules;
  if (text.trim() === "") return optional ? null : "Give a date.";
  if (at === null) return `Not understood. Write it like ${dates.day(now)}, in 14 days, or end of month.`;
  if (min !== undefined && at < min) return `${whyMin ?? "That is too early."} The earliest is ${dates.moment(min)}.`;
  if (max !== undefined && at > max) return `That is too late. The latest is ${dates.moment(max)}.`;
  return null;
}
