import { ChevronDown, ChevronRight } from "lucide-react";
import type { GroupHead } from "@/core/query/outline";
import { RiskMark } from "../parts/RiskMark";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

const STEP_PX = 18;

/** The line over the shares of a group: what they have in common, and what they come to. */
export function GroupLine({ head }: { head: GroupHead }) {
  const dates = useDates();
  const Arrow = head.isOpen ? ChevronDown : ChevronRight;
  return (
    <span
      role="gridcell"
      className="col-span-full flex min-w-0 items-center gap-2 pr-3"
      style={{ paddingLeft: 12 + head.depth * STEP_PX }}
    >
      <Arrow size={14} aria-hidden className="shrink-0" />
      <b className="truncate font-semibold">{head.title}</b>
      <span className="truncate text-[12px] text-ink-faint">{head.detail}</span>
      <span className="ml-auto w-24 shrink-0">
        <RiskMark risk={head.risk} />
      </span>
      <span className="w-36 shrink-0 text-right text-[12.5px] text-ink-soft tabular-nums">
        {head.open === 0 ? "latches as demanded" : countWords(head.open, "lacks a latch", "lack a latch")}
      </span>
      <span className="w-36 shrink-0 text-right text-[12.5px] text-ink-soft tabular-nums">
        {head.lastUsed === null ? "never used" : `last used ${dates.day(head.lastUsed)}`}
      </span>
      <span className="w-24 shrink-0 text-right text-ink-soft tabular-nums">{countWords(head.count, "share")}</span>
    </span>
  );
}
