"use client";

import { useState } from "react";
import type { TrailHistogram } from "@/core/trail/counts";
import { SpanSlider } from "../parts/SpanSlider";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import type { TrailView } from "./useTrailSearch";

/** How many events there were by day or by hour, as bars over which a span is dragged. */
export function TrailHistogramBars({ histogram, view }: { histogram: TrailHistogram; view: TrailView }) {
  const dates = useDates(view.zone);
  const { edges, counts, by } = histogram;
  const [dragged, setDragged] = useState<[number, number] | null>(null);
  const bars = counts.length;
  if (bars < 2) return null;
  const [from, to] = dragged ?? [0, bars];
  const most = Math.max(1, ...counts);
  const words = (edge: number) => dates.moment(edges[edge]);
  const choose = ([first, last]: [number, number]) => {
    setDragged(null);
    if (first > 0 || last < bars) view.change({ from: edges[first], to: edges[last] });
  };
  return (
    <section aria-label={`Events by ${by}`} className="border-b border-line px-3.5 pt-2 pb-1">
      <div aria-hidden className="flex h-14 items-end">
        {counts.map((count, bar) => (
          <i
            key={edges[bar]}
            title={`${words(bar)}: ${countWords(count, "event")}`}
            className={
              bar >= from && bar < to ? "min-w-0 grow basis-0 bg-verdigris" : "min-w-0 grow basis-0 bg-line-strong"
            }
            style={{ height: count === 0 ? 0 : `${Math.max((count / most) * 100, 4)}%` }}
          />
        ))}
      </div>
      <SpanSlider name="Events" bars={bars} span={[from, to]} onDrag={setDragged} onChoose={choose} wordsOf={words} />
      <p className="flex justify-between text-[12px] text-ink-faint tabular-nums">
        <span>{words(from)}</span>
        <span>
          by {by}; most {most.toLocaleString("en-GB")}
          {(view.search.from !== null || view.search.to !== null) && (
            <button
              type="button"
              onClick={() => view.change({ from: null, to: null })}
              className="ml-3 text-verdigris underline"
            >
              Any time
            </button>
          )}
        </span>
        <span>{words(to)}</span>
      </p>
    </section>
  );
}
