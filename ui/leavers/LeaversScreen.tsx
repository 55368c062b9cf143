"use client";

import { useQuery } from "@tanstack/react-query";
import { leaversOperations } from "@/contract/leavers";
import type { Leaver } from "@/core/leavers/leavers";
import { DAY } from "@/core/time/instant";
import { asOf, useStandpoint } from "../frame/viewer";
import { PeopleTabs } from "../outsiders/PeopleTabs";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

/** Everybody who has left, or is suspended, and of whom something still stands. */
export function LeaversScreen() {
  const { past } = useStandpoint();
  const { data, error } = useQuery(asked(leaversOperations.leavers, { past }));
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <h1 className="text-[20px] font-semibold">People</h1>
      <PeopleTabs at="Leavers" />
      <p className="mt-3 max-w-prose text-ink-soft">
        People of your own who have left or are suspended, and of whom something still stands. Those who left the most
        come first.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data?.leavers.length === 0 && <p className="mt-4">Nothing is left of anybody who isn’t active any more.</p>}
      {data && data.leavers.length > 0 && <LeaversTable leavers={data.leavers} />}
    </div>
  );
}

function LeaversTable({ leavers }: { leavers: readonly Leaver[] }) {
  const { past, now } = useStandpoint();
  const dates = useDates();
  return (
    <table className="mt-3 w-full max-w-5xl">
      <thead className="text-left text-[12px] text-ink-faint">
        <tr>
          <th className="py-1 pr-3 font-semibold">Name</th>
          <th className="px-3 font-semibold">Department</th>
          <th className="px-3 font-semibold">Since</th>
          <th className="px-3 text-right font-semibold">Owns</th>
          <th className="px-3 text-right font-semibold">Live links</th>
          <th className="px-3 text-right font-semibold">Grants and groups</th>
        </tr>
      </thead>
      <tbody>
        {leavers.map(({ address, name, department, status, leftAt, owned, links, held }) => (
          <tr key={address} className="border-t border-line hover:bg-surface">
            <th scope="row" className="py-1.5 pr-3 text-left font-normal">
              <Link
                href={asOf(`/people/leaver?address=${encodeURIComponent(address)}`, past)}
                className="text-verdigris underline"
              >
                {name}
              </Link>
              <span className="block font-mono text-[12px] text-ink-faint">{address}</span>
            </th>
            <td className="px-3">{department ?? <span className="text-ink-faint">none</span>}</td>
            <td className="px-3">
              {leftAt === null
                ? status
                : `${dates.day(leftAt)}, ${countWords(Math.floor((now - leftAt) / DAY), "day")}`}
            </td>
            {[owned, links, held].map((count, i) => (
              <td key={i} className="px-3 text-right tabular-nums">
                {count.toLocaleString("en-GB")}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
