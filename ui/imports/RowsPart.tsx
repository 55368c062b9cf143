"use client";

import type { ReportPreview } from "@/core/imports/preview";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { itemWords, shareWords } from "./words";

const SHOWN = 12;

/** What the first rows come to: those that can't be understood first, and then some that can. */
export function RowsPart({ preview: { rows, understood, refused, left } }: { preview: ReportPreview }) {
  const dates = useDates();
  const bad = rows.filter(({ read }) => "problem" in read).slice(0, SHOWN);
  const good = rows.filter(({ read }) => "item" in read).slice(0, SHOWN - Math.min(bad.length, SHOWN / 2));
  return (
    <section aria-labelledby="rows" className="mt-6">
      <h2 id="rows" className="text-[17px] font-semibold">
        What the rows come to
      </h2>
      <p className="text-ink-soft">
        Of the first {countWords(understood + refused + left, "row")}, {understood.toLocaleString("en-GB")} are
        understood
        {refused > 0 && `, ${refused.toLocaleString("en-GB")} are not`}
        {left > 0 && `, ${left.toLocaleString("en-GB")} left out as headings or totals`}.
      </p>
      <table className="mt-2 w-full max-w-6xl table-fixed">
        <colgroup>
          <col className="w-24" />
          <col />
          <col />
        </colgroup>
        <thead className="sr-only">
          <tr>
            <th>Row</th>
            <th>Item</th>
            <th>Who has access</th>
          </tr>
        </thead>
        <tbody>
          {[...bad, ...good].map(({ row, read }) => (
            <tr key={row} className="border-t border-line align-baseline">
              <td className="py-1 text-ink-faint tabular-nums">row {row}</td>
              {"problem" in read ? (
                <td colSpan={2} className="px-3 text-oxide">
                  {read.problem}
                </td>
              ) : "item" in read ? (
                <>
                  <td className="truncate px-3">{itemWords(read)}</td>
                  <td className="px-3 wrap-anywhere">
                    {read.shares.length === 0 && <span className="text-ink-faint">nobody: the item only</span>}
                    {read.shares.map((share, i) => (
                      <span key={i} className="block">
                        {shareWords(share, dates)}
                      </span>
                    ))}
                  </td>
                </>
              ) : null}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
