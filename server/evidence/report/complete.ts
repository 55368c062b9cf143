import { type ReportSection, tableOf } from "@/core/evidence/report";
import { type Seconds, utcDay } from "@/core/time/instant";
import type { Platform } from "../../platform/platform";
import { connections } from "../../stores/connections";
import { readingDays } from "../../stores/readingDays";
import { figure } from "./days";

/** When the stores were read in a span, to show whether its data are complete. */
export async function completeSection({ db }: Platform, from: Seconds, to: Seconds): Promise<ReportSection> {
  const days = await readingDays(db, utcDay(from), utcDay(to));
  const names = new Map((await connections(db)).map(({ id, name }) => [id, name]));
  const rows = [...new Set(days.map(({ store }) => store))].map((store) => {
    const own = days.filter((one) => one.store === store);
    const sum = (of: (one: (typeof own)[number]) => number) => own.reduce((total, one) => total + of(one), 0);
    const gap = Math.max(...own.map((one) => one.gap)) / 3_600;
    const counts = [own.length, sum((one) => one.readings), sum((one) => one.errors)].map(figure);
    return [names.get(store) ?? store, ...counts, gap.toFixed(1)];
  });
  return {
    title: "Completeness",
    words:
      rows.length === 0
        ? "No store was read in this period: the data may be older."
        : "This report is as complete as what was read.",
    table: tableOf(["Store", "Days with readings", "Readings", "Failed", "Longest gap in hours"], rows, [1, 2, 3, 4]),
  };
}
