import clsx from "clsx";
import type { RoundLine } from "@/contract/rounds";
import type { LineState } from "@/core/rounds/line";
import { countsWords, SHOWN_STATES } from "./words";

/** The states differ by their pattern as well as by their colour. */
const LOOKS: Record<LineState, string> = {
  open: "bg-raised",
  kept: "bg-verdigris",
  tightened: "bg-verdigris bar-hatched",
  ended: "bg-ink",
  gone: "bg-line-strong",
  lapsed: "bg-copper bar-striped",
};

/** How many lines are in which state: as a bar, and in words. */
export function StatesBar({ counts, isSmall }: { counts: RoundLine["counts"]; isSmall?: boolean }) {
  const parts = SHOWN_STATES.filter((state) => (counts[state] ?? 0) > 0);
  return (
    <>
      <span aria-hidden className={clsx("flex w-full border border-control", isSmall ? "h-2" : "h-3")}>
        {parts.map((state) => (
          <span
            key={state}
            className={clsx("min-w-[3px] border-r border-raised last:border-r-0", LOOKS[state])}
            style={{ flexGrow: counts[state] }}
          />
        ))}
      </span>
      <span className="block text-[12.5px] text-ink-soft">{countsWords(counts) || "no lines"}</span>
    </>
  );
}
