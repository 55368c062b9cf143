"use client";

import type { StoreTold } from "@/contract/stores";
import { DAY, HOUR } from "@/core/time/instant";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

/** By day, whether what is said of a store is complete: how often it was read, and for how long it wasn’t. */
export function ReadingDays({ days }: Pick<StoreTold, "days">) {
  const dates = useDates("UTC");
  if (days.length === 0) return <p className="mt-1 text-ink-soft">No readings in the last two weeks.</p>;
  return (
    <table className="mt-2">
      <thead className="text-left text-[12px] text-ink-faint">
        <tr>
          <th className="pr-6 font-semibold">Day (UTC)</th>
          <th className="pr-6 text-right font-semibold">Readings</th>
          <th className="pr-6 text-right font-semibold">New or changed</th>
          <th className="pr-6 text-right font-semibold">Failed</th>
          <th className="font-semibold">Longest gap</th>
        </tr>
      </thead>
      <tbody>
        {days.map(({ day, readings, records, errors, gap }) => (
          <tr key={day} className="tabular-nums">
            <td className="pr-6">{dates.day(`${day}T12:00:00Z`)}</td>
            <td className="pr-6 text-right">{readings.toLocaleString("en-GB")}</td>
            <td className="pr-6 text-right">{records.toLocaleString("en-GB")}</td>
            <td className={`pr-6 text-right ${errors > 0 ? "text-oxide" : ""}`}>{errors.toLocaleString("en-GB")}</td>
            <td>{gapWords(gap)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function gapWords(gap: number): string {
  if (gap === 0) return "–";
  if (gap < HOUR) return countWords(Math.max(1, Math.round(gap / 60)), "minute");
  return gap < 2 * DAY ? countWords(Math.round(gap / HOUR), "hour") : countWords(Math.round(gap / DAY), "day");
}
