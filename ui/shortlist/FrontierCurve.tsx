"use client";

import { Chart, Filler, LinearScale, LineController, LineElement, PointElement } from "chart.js";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef } from "react";
import type { Curve } from "@/core/advice/view";
import { useScheme } from "../parts/useScheme";
import { countWords } from "../parts/words";
import { percentWords } from "./words";

Chart.register(Filler, LinearScale, LineController, LineElement, PointElement);

/** Room round the plot, in pixels: what lies over it is placed by the same. */
const ROOM = { left: 48, right: 14, top: 14, bottom: 28 };

interface Props {
  curve: Curve;
  /** Which of the points the handle is at. */
  at: number;
  onMove: (to: number) => void;
}

/** What stays open against what it costs, with a handle that goes from point to point. */
export function FrontierCurve({ curve, at, onMove }: Props) {
  const plot = useRef<HTMLDivElement>(null);
  const { points, bend, mass } = curve;
  const dearest = points[points.length - 1].price || 1;
  const place = (number: number) => ({
    left: `${(100 * points[number].price) / dearest}%`,
    top: `${100 - (100 * points[number].left) / mass}%`,
  });
  const moveTo = (event: PointerEvent) => {
    const { left, width } = plot.current!.getBoundingClientRect();
    onMove(nearest(curve, ((event.clientX - left) / width) * dearest));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const to = {
      ArrowLeft: at - 1,
      ArrowDown: at - 1,
      ArrowRight: at + 1,
      ArrowUp: at + 1,
      Home: 0,
      End: points.length - 1,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    if (points[to]) onMove(to);
  };
  const { left, price, changes, byRisk } = points[at];
  const words = `${percentWords(left, mass)} stays open`;
  const isFarRight = price > dearest * 0.6;
  return (
    <figure className="mt-3 border border-line bg-raised p-2">
      <figcaption className="text-[12.5px] font-semibold text-ink-soft">What stays open</figcaption>
      <div className="relative h-[300px]">
        <Lines curve={curve} />
        <div
          ref={plot}
          className="absolute cursor-pointer touch-none"
          style={{ left: ROOM.left, right: ROOM.right, top: ROOM.top, bottom: ROOM.bottom }}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            moveTo(event);
          }}
          onPointerMove={(event) => event.buttons === 1 && moveTo(event)}
        >
          <span
            aria-hidden
            title="Where the curve bends"
            className="absolute size-2.5 -translate-x-1/2 -translate-y-1/2 rotate-45 border-2 border-copper bg-raised"
            style={place(bend)}
          />
          <span
            role="slider"
            tabIndex={0}
            aria-label="How many changes"
            aria-valuemin={0}
            aria-valuemax={points.length - 1}
            aria-valuenow={at}
            aria-valuetext={`${countWords(changes, "change")} at a price of ${price}: ${words}`}
            onKeyDown={onKeyDown}
            className="absolute h-7 w-3.5 -translate-x-1/2 -translate-y-1/2 rounded-[2px] bg-ink"
            style={place(at)}
          />
          <span
            aria-hidden
            className="pointer-events-none absolute -translate-y-full px-3 font-semibold whitespace-nowrap"
            style={{ ...place(at), ...(isFarRight && { transform: "translate(-100%, -100%)" }) }}
          >
            {words}
          </span>
        </div>
      </div>
      <p className="mt-1 text-[12.5px] text-ink-soft">
        Drag the handle or use the arrow keys. The diamond marks where the curve bends: beyond it, each change shuts
        less. The dashed line ends the riskiest shares one by one: at the same price, {percentWords(byRisk, mass)} would
        stay open.
      </p>
    </figure>
  );
}

function nearest({ points }: Curve, price: number): number {
  const far = (number: number) => Math.abs(points[number].price - price);
  return points.reduce((best, _, number) => (far(number) < far(best) ? number : best), 0);
}

/** Both lines, drawn anew only when the curve is another. */
function Lines({ curve }: { curve: Curve }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const scheme = useScheme();
  useEffect(() => {
    if (!canvas.current) return;
    const chart = drawLines(canvas.current, curve);
    return () => chart.destroy();
  }, [curve, scheme]);
  return <canvas ref={canvas} role="img" aria-label={summary(curve)} />;
}

/** What a reader without the picture is told. */
function summary({ points, mass }: Curve): string {
  const told = points.map(({ changes, left }) => `${countWords(changes, "change")}: ${percentWords(left, mass)}`);
  return `What stays open by number of changes. ${told.join("; ")}.`;
}

function drawLines(canvas: HTMLCanvasElement, { points, mass }: Curve): Chart {
  const styles = getComputedStyle(canvas);
  const colour = (token: string) => styles.getPropertyValue(token).trim();
  const percent = (part: number) => (100 * part) / mass;
  const ticks = { color: colour("--ink-faint"), font: { family: styles.fontFamily }, maxRotation: 0 };
  const plain = { pointRadius: 0, borderWidth: 2 };
  return new Chart(canvas, {
    type: "line",
    data: {
      datasets: [
        {
          ...plain,
          data: points.map(({ price, left }) => ({ x: price, y: percent(left) })),
          borderColor: colour("--verdigris"),
          backgroundColor: colour("--verdigris-soft"),
          fill: true,
        },
        {
          ...plain,
          data: points.map(({ price, byRisk }) => ({ x: price, y: percent(byRisk) })),
          borderColor: colour("--ink-faint"),
          borderWidth: 1.5,
          borderDash: [4, 4],
        },
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      events: [],
      // The handle is placed over the plot: it has to lie just there.
      layout: { padding: { left: 0, top: ROOM.top, right: ROOM.right, bottom: 0 } },
      scales: {
        x: {
          type: "linear",
          min: 0,
          max: points[points.length - 1].price || 1,
          title: { display: false },
          grid: { display: false },
          ticks: {
            ...ticks,
            maxTicksLimit: 6,
            callback: (value) => (value === 0 ? "price 0" : Number(value).toLocaleString("en-GB")),
          },
          afterFit: (scale) => void (scale.height = ROOM.bottom),
        },
        y: {
          min: 0,
          max: 100,
          grid: { color: colour("--line") },
          ticks: { ...ticks, stepSize: 25, callback: (value) => `${value} %` },
          afterFit: (scale) => void (scale.width = ROOM.left),
        },
      },
    },
  });
}
