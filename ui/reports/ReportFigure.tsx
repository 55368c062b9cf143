"use client";

import { useEffect, useRef } from "react";
import type { ReportChart } from "@/core/evidence/report";
import { ChartLegend } from "../parts/ChartLegend";
import { stackedChart } from "../parts/stackedChart";
import { useScheme } from "../parts/useScheme";

/** The lowest first. */
const TOKENS = ["--copper", "--verdigris", "--ink-soft", "--line-strong"];

/** How some figures of a report went; its table has each of them. */
export function ReportFigure({ chart, title }: { chart: ReportChart; title: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const scheme = useScheme();
  useEffect(() => {
    if (!canvas.current) return;
    const lines = chart.lines.map((line, i) => ({ ...line, token: TOKENS[i] }));
    const drawn = stackedChart(canvas.current, { labels: chart.labels, lines, mostTicks: 5 });
    return () => drawn.destroy();
  }, [chart, scheme]);
  return (
    <figure className="mt-3 max-w-3xl">
      <div className="relative h-[190px]">
        <canvas ref={canvas} role="img" aria-label={`${title}: the table below has the figures`} />
      </div>
      <ChartLegend lines={chart.lines.map(({ name }, i) => ({ name, token: TOKENS[i] }))} />
    </figure>
  );
}
