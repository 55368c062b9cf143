import clsx from "clsx";
import { LATCH_WORDS, LATCHES } from "@/core/changes/latches";
import type { Latches, LatchState } from "@/core/rules/latches";

export const STATE_WORDS: Record<LatchState, string> = {
  shut: "shut",
  open: "open",
  demanded: "open, but a rule requires it shut",
  impossible: "not possible here",
  waived: "open, waived",
};

/** One bar of the product's sign. Its state is told by its shape alone; colour only repeats it. */
export function LatchMark({ state, large }: { state: LatchState; large?: boolean }) {
  return (
    <svg viewBox="0 0 10 18" aria-hidden className={clsx("shrink-0", large ? "h-8 w-[18px]" : "h-[18px] w-2.5")}>
      {SHAPES[state]}
    </svg>
  );
}

const SHAPES: Record<LatchState, React.ReactNode> = {
  shut: (
    <>
      <rect x="2.5" y="1" width="5" height="16" rx="1" fill="var(--verdigris)" />
      <rect
        x="0"
        y="7.5"
        width="10"
        height="3"
        rx=".8"
        fill="var(--verdigris)"
        stroke="var(--raised)"
        strokeWidth=".9"
      />
    </>
  ),
  open: <rect x="3" y="1.5" width="4" height="15" rx="1" fill="none" stroke="var(--ink-faint)" />,
  demanded: (
    <path
      d="M3 6.2V2.5a1 1 0 0 1 1-1h2a1 1 0 0 1 1 1v3.7M3 11.8v3.7a1 1 0 0 0 1 1h2a1 1 0 0 0 1-1v-3.7"
      fill="none"
      stroke="var(--copper)"
      strokeWidth="1.7"
    />
  ),
  impossible: <circle cx="5" cy="9" r="1.4" fill="var(--ink-faint)" />,
  waived: (
    <>
      <rect x="3" y="1.5" width="4" height="11" rx="1" fill="none" stroke="var(--ink-faint)" />
      <rect x="1.5" y="15" width="7" height="1.8" fill="var(--ink-faint)" />
    </>
  ),
};

/** The four latches of a share in their order, with their states in words for whoever hovers or listens. */
export function LatchMarks({ latches }: { latches: Latches }) {
  const words = LATCHES.map((latch) => `${LATCH_WORDS[latch]}: ${STATE_WORDS[latches[latch]]}`).join("; ");
  return (
    <span role="img" aria-label={words} title={words} className="inline-flex gap-[5px]">
      {LATCHES.map((latch) => (
        <LatchMark key={latch} state={latches[latch]} />
      ))}
    </span>
  );
}
