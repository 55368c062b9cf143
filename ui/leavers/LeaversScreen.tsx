"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { addressOf } from "@/contract/address";
import { leaversOperations } from "@/contract/leavers";
import type { Leaver } from "@/core/leavers/leavers";
import { asOf, useStandpoint } from "../frame/viewer";
import { PAGE_SIZE, PeopleList } from "../people/PeopleList";
import { useListAsked } from "../people/useListAsked";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { ROW_TABLE } from "../parts/rowTable";
import { useDates } from "../parts/useDates";
import { plainWords } from "../parts/words";
import { LEAVER_QUERY } from "./queryKind";

/** Everybody who is about to leave, and everybody who has, or is suspended, and of whom something still stands. */
export function LeaversScreen() {
  const { past } = useStandpoint();
  const [{ q, from }, setAsked] = useListAsked();
  const { data, error } = useQuery({
    ...asked(leaversOperations.leavers, { query: { q, from, count: PAGE_SIZE }, past }),
    placeholderData: keepPreviousData,
  });
  return (
    <PeopleList
      at="Leavers"
      file={addressOf(leaversOperations.leaversFile, { query: { q }, past })}
      kind={LEAVER_QUERY}
      query={q}
      found={data}
      noun={["person", "people"]}
      {...{ from, error }}
      onAsk={(asked) => void setAsked(asked)}
      none={
        <p className="max-w-prose">
          {data?.total === 0
            ? "No leavers: nobody has a last day set, and nobody inactive has anything left."
            : "No leavers match. Remove a part of the query."}
        </p>
      }
    >
      <Leavers page={data?.page ?? []} />
      <p className="mt-4 text-ink-soft">
        Not listed? Look them up under{" "}
        <Link href={asOf("/people/insiders", past)} className="text-verdigris underline">
          insiders
        </Link>{" "}
        and set a last day.
      </p>
    </PeopleList>
  );
}

function Leavers({ page }: { page: readonly Leaver[] }) {
  const going = page.filter(({ status }) => status === "active");
  const gone = page.filter(({ status }) => status !== "active");
  return (
    <>
      {going.length > 0 && (
        <section aria-labelledby="going" className="mt-4">
          <h2 id="going" className="text-[15px] font-semibold">
            Leaving
          </h2>
          <p className="max-w-prose text-ink-soft">Their last day is known. The Desk reminds you the day before.</p>
          <LeaversTable leavers={going} when="Last day" />
        </section>
      )}
      {gone.length > 0 && (
        <section aria-labelledby="gone" className="mt-4">
          <h2 id="gone" className="text-[15px] font-semibold">
            Left or suspended
          </h2>
          <p className="max-w-prose text-ink-soft">They still have something left. Those with the most come first.</p>
          <LeaversTable leavers={gone} when="Since" />
        </section>
      )}
    </>
  );
}

function LeaversTable({ leavers, when }: { leavers: readonly Leaver[]; when: string }) {
  const { past } = useStandpoint();
  return (
    <table {...ROW_TABLE} className="mt-2 w-full max-w-5xl table-fixed">
      <thead className="text-left text-[12px] text-ink-faint">
        <tr>
          <th className="w-[30%] py-1 pr-3 font-semibold">Name</th>
          <th className="w-[16%] px-3 font-semibold">Department</th>
          <th className="w-[20%] px-3 font-semibold">{when}</th>
          <th className="px-3 text-right font-semibold">Owns</th>
          <th className="px-3 text-right font-semibold">Live links</th>
          <th className="px-3 text-right font-semibold">Grants</th>
          <th className="px-3 text-right font-semibold">Groups</th>
        </tr>
      </thead>
      <tbody>
        {leavers.map((leaver) => (
          <tr key={leaver.address} className="border-t border-line hover:bg-surface">
            <th scope="row" className="py-1.5 pr-3 text-left font-normal">
              <Link
                href={asOf(`/people/leaver?address=${encodeURIComponent(leaver.address)}`, past)}
                className="text-verdigris underline"
              >
                {leaver.name}
              </Link>
              <span className="block font-mono text-[12px] text-ink-faint">{leaver.address}</span>
            </th>
            <td className="px-3">{leaver.department ?? <span className="text-ink-faint">none</span>}</td>
            <td className="px-3">
              <When leaver={leaver} />
            </td>
            {[leaver.owned, leaver.links, leaver.grants, leaver.groups].map((count, i) => (
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

/** When they leave, or since when they are gone. */
function When({ leaver: { status, since, lastDay } }: { leaver: Leaver }) {
  const { now } = useStandpoint();
  const dates = useDates();
  if (lastDay !== null)
    return (
      <>
        {dates.day(lastDay)}, {dates.distance(lastDay, now)}
        {lastDay < now && <span className="block text-[12px] text-oxide">still active</span>}
      </>
    );
  return (
    <>
      {since === null ? plainWords(status) : `${dates.day(since)}, ${dates.distance(since, now)}`}
      {status === "suspended" && since !== null && <span className="block text-[12px] text-ink-faint">suspended</span>}
    </>
  );
}
