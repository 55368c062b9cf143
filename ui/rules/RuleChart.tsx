"use client";

import { BarController, BarElement, CategoryScale, Chart, LinearScale, type Plugin, Tooltip } from "chart.js";
import { useEffect, useRef } from "react";
import type { RuleTrial } from "@/core/rules/view";
import { useScheme } from "../parts/useScheme";
import { countWords } from "../parts/words";

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

/** What a rule looks at, spread out, with what falls in copper and the line where it cuts. */
export function RuleChart({ trial }: { trial: RuleTrial }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<"bar"> | null>(null);
  const cut = useRef<number | null>(trial.cut);
  const scheme = useScheme();
  useEffect(() => {
    cut.current = trial.cut;
    if (!canvas.current) return;
    // While a slot is turned the same picture is drawn with other figures: nothing jumps.
    chart.current ??= newChart(canvas.current, cut);
    chart.current.data = dataOf(trial);
    chart.current.update("none");
  }, [trial, scheme]);
  useEffect(
    () => () => {
      chart.current?.destroy();
      chart.current = null;
    },
    [scheme],
  );
  return (
    <figure className="mt-3">
      <figcaption className="mb-1 text-ink-soft">
        {countWords(trial.looksAt, "share")} by {trial.title}
      </figcaption>
      <div className="relative h-[190px]">
        <canvas ref={canvas} role="img" aria-label={summary(trial)} />
      </div>
      <p aria-hidden className="mt-1 flex gap-4 text-[12px]">
        <Legend token="--line-strong" words="meet it" />
        <Legend token="--copper" words="break it" />
      </p>
    </figure>
  );
}

function Legend({ token, words }: { token: string; words: string }) {
  return (
    <span className="flex items-center gap-1">
      <span className="inline-block h-2.5 w-2.5" style={{ background: `var(${token})` }} />
      {words}
    </span>
  );
}

/** What a reader without the picture is told. */
function summary({ title, bars }: RuleTrial): string {
  const told = bars.filter(({ stands, falls }) => stands + falls > 0);
  return `By ${title}. ${told.map(({ title, stands, falls }) => `${title}: ${falls} of ${stands + falls} break it`).join("; ")}`;
}

const ink = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name);

function dataOf({ bars }: RuleTrial) {
  const stands = {
    label: "meet it",
    data: bars.map((bar) => bar.stands || null),
    backgroundColor: ink("--line-strong"),
    minBarLength: 2,
  };
  const falls = {
    label: "break it",
    data: bars.map((bar) => bar.falls || null),
    backgroundColor: ink("--copper"),
    minBarLength: 2,
  };
  return { labels: bars.map(({ title }) => title), datasets: [stands, falls] };
}

/** Few bars are all named; of many every fifth, and those that have no figure. */
function isNamed(index: number, count: number): boolean {
  return count < 10 || index === count - 1 || (index % 5 === 0 && index < count - 4);
}

function newChart(canvas: HTMLCanvasElement, cut: { current: number | null }): Chart<"bar"> {
  const color = ink("--ink-faint");
  const font = { family: getComputedStyle(document.body).fontFamily };
  const cutLine: Plugin<"bar"> = {
    id: "cut",
    afterDatasetsDraw: ({ ctx, chartArea, data }) => {
      const count = data.labels?.length ?? 0;
      if (cut.current === null || count === 0) return;
      const x = chartArea.left + (Math.min(cut.current, count - 2) / count) * chartArea.width;
      ctx.fillStyle = ink("--ink");
      ctx.fillRect(x - 1, chartArea.top - 6, 2, chartArea.height + 6);
    },
  };
  return new Chart(canvas, {
    type: "bar",
    data: { labels: [], datasets: [] },
    plugins: [cutLine],
    options: {
      animation: false,
      maintainAspectRatio: false,
      layout: { padding: { top: 8 } },
      plugins: { legend: { display: false }, tooltip: { mode: "index", intersect: false } },
      scales: {
        x: {
          stacked: true,
          grid: { display: false },
          ticks: {
            color,
            font,
            maxRotation: 0,
            autoSkip: false,
            callback(_, index) {
              return isNamed(index, this.chart.data.labels!.length) ? this.getLabelForValue(index) : "";
            },
          },
        },
        y: { stacked: true, border: { display: false }, ticks: { color, font, precision: 0, maxTicksLimit: 5 } },
      },
    },
  });
}
