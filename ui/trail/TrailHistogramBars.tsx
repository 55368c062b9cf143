"use client";

import { Slider } from "radix-ui";
import { useState } from "react";
import { zonedWords } from "@/core/time/zoned";
import type { TrailHistogram } from "@/core/trail/counts";
import { countWords } from "../parts/words";
import type { TrailView } from "./useTrailSearch";

/** How many acts there were by day or by hour, as bars over which a span is dragged. */
export function TrailHistogramBars({ histogram, view }: { histogram: TrailHistogram; view: TrailView }) {
  const { edges, counts, by } = histogram;
  const [dragged, setDragged] = useState<number[] | null>(null);
  const bars = counts.length;
  if (bars < 2) return null;
  const [from, to] = dragged ?? [0, bars];
  const most = Math.max(1, ...counts);
  const words = (edge: number) => zonedWords(edges[edge], view.zone);
  const choose = ([first, last]: number[]) => {
    setDragged(null);
    if (first > 0 || last < bars) view.change({ from: edges[first], to: edges[last] });
  };
  return (
    <section aria-label={`Acts by ${by}`} className="border-b border-line px-3.5 pt-2 pb-1">
      <div aria-hidden className="flex h-14 items-end">
        {counts.map((count, bar) => (
          <i
            key={edges[bar]}
            title={`${words(bar)}: ${countWords(count, "act")}`}
            className={
              bar >= from && bar < to ? "min-w-0 grow basis-0 bg-verdigris" : "min-w-0 grow basis-0 bg-line-strong"
            }
            style={{ height: count === 0 ? 0 : `${Math.max((count / most) * 100, 4)}%` }}
          />
        ))}
      </div>
      <Slider.Root
        min={0}
        max={bars}
        step={1}
        minStepsBetweenThumbs={1}
        value={[from, to]}
        onValueChange={setDragged}
        onValueCommit={choose}
        className="relative flex h-4 touch-none items-center"
      >
        <Slider.Track className="relative h-[3px] grow bg-line-strong">
          <Slider.Range className="absolute h-full bg-verdigris" />
        </Slider.Track>
        {["From", "To"].map((end, i) => (
          <Slider.Thumb
            key={end}
            aria-label={`Acts: ${end.toLowerCase()}`}
            aria-valuetext={words([from, to][i])}
            className="block h-4 w-[7px] rounded-[2px] border border-verdigris bg-raised"
          />
        ))}
      </Slider.Root>
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
