"use client";

import { useQuery } from "@tanstack/react-query";
import {
  CategoryScale,
  Chart,
  type ChartDataset,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from "chart.js";
import { useEffect, useEffectEvent, useRef } from "react";
import { registerOperations } from "@/contract/register";
import type { OutsideCount } from "@/core/access/history";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Dates } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { asked } from "../parts/ask";

Chart.register(CategoryScale, Filler, LinearScale, LineController, LineElement, PointElement, Tooltip);

/** The ways in from outside, the widest below; each with the token of its colour. */
const WAYS: [Exclude<keyof OutsideCount, "at">, string, string][] = [
  ["open", "Open links", "--copper"],
  ["named", "Named links", "--verdigris"],
  ["person", "Rights of people", "--ink-soft"],
  ["group", "Rights of groups", "--line-strong"],
];

const total = (one: OutsideCount) => one.open + one.named + one.person + one.group;

/** How many outside shares there were on each day of the last twelve months; a day that is pressed is gone to. */
export function HistoryChart({ onDay }: { onDay: (at: string) => void }) {
  const { data } = useQuery({
    ...asked(registerOperations.history, { query: { days: 365 } }),
  });
  const dates = useDates();
  const canvas = useRef<HTMLCanvasElement>(null);
  const go = useEffectEvent((at: Seconds) => onDay(rfc3339(at)));
  useEffect(() => {
    if (!data || !canvas.current) return;
    const chart = drawChart(canvas.current, data, dates, (at) => go(at));
    return () => chart.destroy();
  }, [data, dates]);
  return (
    <figure className="mb-3">
      <figcaption className="mb-1 text-[12px] text-ink-faint">
        Outside shares by day; press one to go there. {data ? summary(data, dates) : "Counting…"}
      </figcaption>
      <div className="relative h-[130px]">
        <canvas
          ref={canvas}
          role="img"
          aria-label={data ? `Outside shares by day. ${summary(data, dates)}` : "Counting"}
        />
      </div>
      <p className="mt-1 flex flex-wrap gap-x-3 text-[12px]">
        {WAYS.map(([way, words, token]) => (
          <span key={way} className="flex items-center gap-1">
            <span aria-hidden className="inline-block h-2.5 w-2.5" style={{ background: `var(${token})` }} />
            {words}
          </span>
        ))}
      </p>
    </figure>
  );
}

/** What a reader without the picture is told. */
function summary(counts: OutsideCount[], dates: Dates): string {
  const words = (one: OutsideCount) => `${total(one).toLocaleString("en-GB")} on ${dates.day(one.at)}`;
  const most = counts.reduce((a, b) => (total(b) > total(a) ? b : a));
  return `${words(counts[0])}, at most ${words(most)}, ${total(counts[counts.length - 1]).toLocaleString("en-GB")} now.`;
}

function drawChart(
  canvas: HTMLCanvasElement,
  counts: OutsideCount[],
  dates: Dates,
  onDay: (at: Seconds) => void,
): Chart {
  const styles = getComputedStyle(canvas);
  const colour = (token: string) => styles.getPropertyValue(token).trim();
  const datasets = WAYS.map(([way, label, token]): ChartDataset<"line", number[]> => ({
    label,
    data: counts.map((one) => one[way]),
    backgroundColor: colour(token),
    borderWidth: 0,
    pointRadius: 0,
    fill: true,
    stepped: true,
  }));
  const ticks = { color: colour("--ink-faint"), maxRotation: 0, font: { family: styles.fontFamily } };
  return new Chart(canvas, {
    type: "line",
    data: { labels: counts.map(({ at }) => dates.day(at)), datasets },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: "index", intersect: false },
      onClick: (_, [first]) => first && onDay(counts[first.index].at),
      scales: {
        x: { ticks: { ...ticks, maxTicksLimit: 4 }, grid: { display: false } },
        y: { stacked: true, ticks: { ...ticks, maxTicksLimit: 4 }, grid: { color: colour("--line") } },
      },
    },
  });
}
