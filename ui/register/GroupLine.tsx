import { ChevronDown, ChevronRight } from "lucide-react";
import type { GroupHead } from "@/core/query/outline";
import { countWords } from "../parts/words";

const STEP_PX = 18;

/** The line over the shares of a group: what they have in common, and how many they are. */
export function GroupLine({ head }: { head: GroupHead }) {
  const Arrow = head.isOpen ? ChevronDown : ChevronRight;
  return (
    <span
      role="gridcell"
      className="col-span-full flex min-w-0 items-baseline gap-2 pr-3"
      style={{ paddingLeft: 12 + head.depth * STEP_PX }}
    >
      <Arrow size={14} aria-hidden className="shrink-0 self-center" />
      <b className="truncate font-semibold">{head.title}</b>
      <span className="truncate text-[12px] text-ink-faint">{head.detail}</span>
      <span className="ml-auto shrink-0 text-ink-soft tabular-nums">{countWords(head.count, "share")}</span>
    </span>
  );
}
