"use client";

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
import { useEffect, useRef } from "react";
import type { ReportChart } from "@/core/evidence/report";

Chart.register(CategoryScale, Filler, LinearScale, LineController, LineElement, PointElement, Tooltip);

/** The widest below; each with the token of its colour. */
const COLOURS = ["--copper", "--verdigris", "--ink-soft", "--line-strong"];

/** How some figures of a report went; its table has each of them. */
export function ReportFigure({ chart, title }: { chart: ReportChart; title: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current) return;
    const drawn = draw(canvas.current, chart);
    return () => drawn.destroy();
  }, [chart]);
  return (
    <figure className="mt-3 max-w-3xl">
      <div className="relative h-[190px]">
        <canvas ref={canvas} role="img" aria-label={`${title}: the table below has the figures`} />
      </div>
      <figcaption className="mt-1 flex flex-wrap gap-x-4 text-[12px]">
        {chart.lines.map(({ name }, i) => (
          <span key={name} className="flex items-center gap-1">
            <span aria-hidden className="inline-block h-2.5 w-2.5" style={{ background: `var(${COLOURS[i]})` }} />
            {name}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}

function draw(canvas: HTMLCanvasElement, { labels, lines }: ReportChart): Chart {
  const styles = getComputedStyle(canvas);
  const colour = (token: string) => styles.getPropertyValue(token).trim();
  const datasets = lines.map(({ name, values }, i): ChartDataset<"line", number[]> => ({
    ...{ label: name, data: values, backgroundColor: colour(COLOURS[i]), borderWidth: 0, pointRadius: 0, fill: true },
  }));
  const ticks = { color: colour("--ink-faint"), maxRotation: 0, font: { family: styles.fontFamily } };
  return new Chart(canvas, {
    type: "line",
    data: { labels, datasets },
    options: {
      ...{ animation: false, maintainAspectRatio: false, interaction: { mode: "index", intersect: false } },
      scales: {
        x: { ticks: { ...ticks, maxTicksLimit: 5 }, grid: { display: false } },
        y: { stacked: true, beginAtZero: true, ticks: { ...ticks, precision: 0 }, grid: { color: colour("--line") } },
      },
    },
  });
}
