"use client";

import { useQuery } from "@tanstack/react-query";
import { addressOf } from "@/contract/address";
import { type EngagementLine, engagementsOperations } from "@/contract/engagements";
import { asOf, useStandpoint } from "../frame/viewer";
import { PeopleTabs } from "../people/PeopleTabs";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { ROW_TABLE } from "../parts/rowTable";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { listWords } from "../parts/words";
import { engagementAt } from "./words";

/** Pieces of work for which something is shared outside until they end. */
export function EngagementsScreen() {
  const { viewer, past, now } = useStandpoint();
  const { data, error } = useQuery(asked(engagementsOperations.engagements, { past }));
  const running = data?.engagements.filter(({ engagement }) => engagement.ends > now) ?? [];
  const over = data?.engagements.filter(({ engagement }) => engagement.ends <= now).toReversed() ?? [];
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <div className="flex items-baseline gap-4">
        <h1 className="grow text-[20px] font-semibold">People</h1>
        <a href={addressOf(engagementsOperations.engagementDates)} className="text-verdigris underline" download>
          All ends as a calendar
        </a>
      </div>
      <PeopleTabs at="Projects" />
      <div className="mt-3 flex items-start gap-6">
        <p className="max-w-prose grow text-ink-soft">
          A piece of work with people outside, from one day to another. Two weeks before its end whoever answers for it
          is asked; after it a docket waits with all that was shared for it.
        </p>
        {viewer.mayChange && past === null && (
          <Link
            href="/people/project/new"
            className="h-[30px] rounded-[3px] border border-verdigris bg-verdigris px-3 leading-[28px] font-semibold whitespace-nowrap text-on-verdigris"
          >
            Make a project
          </Link>
        )}
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data?.engagements.length === 0 && <p className="mt-4">There are none yet.</p>}
      {running.length > 0 && <EngagementsTable title="Going on, or to come" lines={running} />}
      {over.length > 0 && <EngagementsTable title="Over" lines={over} />}
    </div>
  );
}

function EngagementsTable({ title, lines }: { title: string; lines: readonly EngagementLine[] }) {
  const { past, now } = useStandpoint();
  const dates = useDates();
  return (
    <section aria-label={title} className="mt-4">
      <h2 className="text-[15px] font-semibold">{title}</h2>
      <table {...ROW_TABLE} className="mt-1 w-full table-fixed">
        <thead className="text-left text-[12px] text-ink-faint">
          <tr>
            <th className="w-[17%] py-1 pr-3 font-semibold">Name</th>
            <th className="w-[31%] px-3 font-semibold">Organisations</th>
            <th className="w-[11%] px-3 font-semibold">Ends</th>
            <th className="w-[20%] px-3 font-semibold">Answers for it</th>
            <th className="px-3 text-right font-semibold">Items</th>
            <th className="px-3 text-right font-semibold">Shares now</th>
            <th className="px-3 text-right font-semibold">Ever used</th>
          </tr>
        </thead>
        <tbody>
          {lines.map(({ engagement: { id, name, organisations, starts, ends, items, shares, used }, kept }) => (
            <tr key={id} className="border-t border-line align-top hover:bg-surface">
              <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                <Link href={asOf(engagementAt(id), past)} className="text-verdigris underline">
                  {name}
                </Link>
              </th>
              <td className="px-3 py-1.5 font-mono text-[13px] wrap-anywhere">{listWords(organisations)}</td>
              <td className="px-3 py-1.5 whitespace-nowrap">
                {dates.day(ends)}
                <span className="block text-[12px] text-ink-faint">
                  {starts > now ? `starts ${dates.day(starts)}` : dates.distance(ends, now)}
                </span>
              </td>
              <td className="px-3 py-1.5 wrap-anywhere">
                {kept?.responsible ?? <span className="text-ink-faint">not known here</span>}
              </td>
              {[items, shares, used].map((count, i) => (
                <td key={i} className="px-3 py-1.5 text-right tabular-nums">
                  {count.toLocaleString("en-GB")}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
