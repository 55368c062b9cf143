import type { Suggestion } from "../advice/suggest";
import type { LineDecision } from "./line";

/** What one decision says about how carefully somebody decides. */
export interface Decided {
  decision: LineDecision;
  suggested: Suggestion["suggest"];
  /** Seconds since they decided the previous line, or opened the page. */
  seconds: number;
}

export interface Quality {
  lines: number;
  decided: number;
  /** How often somebody decided differently from the suggestion. */
  overruled: number;
  /** Null where nothing was decided. */
  medianSeconds: number | null;
  /** Whether it looks as if nothing was examined: many lines, all kept, each within a moment. */
  isUnlooked: boolean;
}

const MANY_LINES = 10;
const NO_TIME_S = 3;

/** How somebody decided the lines given to them. */
export function qualityOf(lines: number, all: readonly Decided[]): Quality {
  const medianSeconds = medianOf(all.map(({ seconds }) => seconds));
  const isAllKept = all.length === lines && all.every(({ decision }) => decision === "keep");
  return {
    lines,
    decided: all.length,
    overruled: all.filter(({ decision, suggested }) => decision !== suggested).length,
    medianSeconds,
    isUnlooked: lines >= MANY_LINES && isAllKept && medianSeconds !== null && medianSeconds < NO_TIME_S,
  };
}

/** The median of some numbers; null where there are none. */
function medianOf(numbers: readonly number[]): number | null {
  if (numbers.length === 0) return null;
  const sorted = [...numbers].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}
