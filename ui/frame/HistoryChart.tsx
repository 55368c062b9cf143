"use client";

import { useQuery } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useRef } from "react";
import { registerOperations } from "@/contract/register";
import type { OutsideCount } from "@/core/access/history";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Dates } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { asked } from "../parts/ask";
import { ChartLegend } from "../parts/ChartLegend";
import { stackedChart } from "../parts/stackedChart";
import { useScheme } from "../parts/useScheme";

/** The ways in from outside, the widest below; each with the token of its colour. */
const WAYS: [Exclude<keyof OutsideCount, "at">, string, string][] = [
  ["open", "Open links", "--copper"],
  ["named", "Named links", "--verdigris"],
  ["person", "Grants to people", "--ink-soft"],
  ["group", "Grants to groups", "--line-strong"],
];

const total = (one: OutsideCount) => one.open + one.named + one.person + one.group;

/** How many outside shares there were on each day of the last twelve months; a day that is pressed is gone to. */
export function HistoryChart({ onDay }: { onDay: (at: string) => void }) {
  const { data } = useQuery({
    ...asked(registerOperations.history, { query: { days: 365 } }),
  });
  const dates = useDates();
  const canvas = useRef<HTMLCanvasElement>(null);
  const scheme = useScheme();
  const go = useEffectEvent((at: Seconds) => onDay(rfc3339(at)));
  useEffect(() => {
    if (!data || !canvas.current) return;
    const lines = WAYS.map(([way, name, token]) => ({ name, token, values: data.map((one) => one[way]) }));
    const chart = stackedChart(canvas.current, {
      ...{ labels: data.map(({ at }) => dates.day(at)), lines, isStepped: true, mostTicks: 4 },
      onPress: (place) => go(data[place].at),
    });
    return () => chart.destroy();
  }, [data, dates, scheme]);
  return (
    <figure className="mb-3">
      <figcaption className="mb-1 text-[12px] text-ink-faint">
        Outside shares by day. Press a day to see the estate as it was then. {data ? summary(data, dates) : "Counting…"}
      </figcaption>
      <div className="relative h-[130px]">
        <canvas
          ref={canvas}
          role="img"
          aria-label={data ? `Outside shares by day. ${summary(data, dates)}` : "Counting"}
        />
      </div>
      <ChartLegend lines={WAYS.map(([, name, token]) => ({ name, token }))} />
    </figure>
  );
}

/** What a reader without the picture is told. */
function summary(counts: OutsideCount[], dates: Dates): string {
  const words = (one: OutsideCount) => `${total(one).toLocaleString("en-GB")} on ${dates.day(one.at)}`;
  const most = counts.reduce((a, b) => (total(b) > total(a) ? b : a));
  return `${words(counts[0])}, at most ${words(most)}, ${total(counts[counts.length - 1]).toLocaleString("en-GB")} now.`;
}
