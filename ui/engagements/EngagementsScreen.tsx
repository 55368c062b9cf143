"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { addressOf } from "@/contract/address";
import { engagementsOperations } from "@/contract/engagements";
import type { EngagementLine } from "@/core/engagements/asking";
import { asOf, useStandpoint } from "../frame/viewer";
import { PAGE_SIZE, PeopleList } from "../people/PeopleList";
import { useListAsked } from "../people/useListAsked";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { ROW_TABLE } from "../parts/rowTable";
import { useDates } from "../parts/useDates";
import { listWords } from "../parts/words";
import { ENGAGEMENT_QUERY } from "./queryKind";
import { engagementAt } from "./words";

/** Pieces of work for which something is shared outside until they end. */
export function EngagementsScreen() {
  const { past } = useStandpoint();
  const [{ q, from }, setAsked] = useListAsked();
  const { data, error } = useQuery({
    ...asked(engagementsOperations.engagements, { query: { q, from, count: PAGE_SIZE }, past }),
    placeholderData: keepPreviousData,
  });
  return (
    <PeopleList
      at="Projects"
      file={addressOf(engagementsOperations.engagementsFile, { query: { q }, past })}
      more={<More />}
      kind={ENGAGEMENT_QUERY}
      query={q}
      found={data}
      noun={["project"]}
      {...{ from, error }}
      onAsk={(asked) => void setAsked(asked)}
      none={
        <p className="max-w-prose">
          {data?.total === 0
            ? "There are no projects yet. A project is a piece of work with people outside that has a start and an end: what is shared for it ends with it."
            : "No projects match. Remove a part of the query."}
        </p>
      }
    >
      <Engagements page={data?.page ?? []} />
    </PeopleList>
  );
}

function More() {
  const { viewer, past } = useStandpoint();
  return (
    <>
      <a href={addressOf(engagementsOperations.engagementDates)} className="text-verdigris underline" download>
        End dates as a calendar file
      </a>
      {viewer.mayChange && past === null && (
        <Link
          href="/people/project/new"
          className="order-last h-[30px] rounded-[3px] border border-verdigris bg-verdigris px-3 leading-[28px] font-semibold whitespace-nowrap text-on-verdigris"
        >
          New project
        </Link>
      )}
    </>
  );
}

function Engagements({ page }: { page: readonly EngagementLine[] }) {
  const { now } = useStandpoint();
  const running = page.filter(({ ends }) => ends > now);
  const over = page.filter(({ ends }) => ends <= now);
  return (
    <>
      {running.length > 0 && <EngagementsTable title="Current and upcoming" lines={running} />}
      {over.length > 0 && <EngagementsTable title="Over" lines={over} />}
    </>
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
            <th className="w-[28%] px-3 font-semibold">Organisations</th>
            <th className="w-[11%] px-3 font-semibold">Ends</th>
            <th className="w-[23%] px-3 font-semibold">Responsible</th>
            <th className="px-3 text-right font-semibold">Items</th>
            <th className="px-3 text-right font-semibold">Live shares</th>
            <th className="px-3 text-right font-semibold">Ever used</th>
          </tr>
        </thead>
        <tbody>
          {lines.map(({ id, name, organisations, starts, ends, items, shares, used, responsible }) => (
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
                {responsible ?? <span className="text-ink-faint">unknown here</span>}
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
