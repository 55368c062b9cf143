"use client";

import { useQuery } from "@tanstack/react-query";
import { sharingOperations } from "@/contract/sharing";
import { type ShareRequest, STATE_WORDS } from "@/core/sharing/request";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { audienceOf } from "./words";

/** What people want to share, those that wait first. */
export function RequestsScreen() {
  const { viewer } = useStandpoint();
  const { data, error } = useQuery(asked(sharingOperations.shareRequests));
  const waiting = data?.filter(({ state }) => state === "asked") ?? [];
  const others = data?.filter(({ state }) => state !== "asked") ?? [];
  return (
    <div className="relative h-full overflow-y-auto bg-raised p-6">
      <div className="mb-3 flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">Requests to share</h1>
        {viewer.mayChange && (
          <Link href="/share" className="text-verdigris underline">
            Make a share
          </Link>
        )}
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data?.length === 0 && (
        <Notice>
          Nobody has asked to share anything. Whoever signs in as an owner can, under My shares; shares that you make
          yourself are listed here too.
        </Notice>
      )}
      {waiting.length > 0 && <RequestTable title="Waiting for your word" requests={waiting} />}
      {others.length > 0 && <RequestTable title="Decided" requests={others} />}
    </div>
  );
}

function RequestTable({ title, requests }: { title: string; requests: readonly ShareRequest[] }) {
  const dates = useDates();
  return (
    <section className="mb-6">
      <h2 className="mb-1 font-semibold">{title}</h2>
      <table className="w-full table-fixed border-collapse text-left">
        <thead>
          <tr className="border-b border-line-strong text-[12px] text-ink-faint">
            <th className="w-[26%] py-1 pr-3 font-semibold">Item</th>
            <th className="w-[28%] py-1 pr-3 font-semibold">For</th>
            <th className="w-[22%] py-1 pr-3 font-semibold">Asked by</th>
            <th className="w-[11%] py-1 pr-3 font-semibold">On</th>
            <th className="py-1 font-semibold">State</th>
          </tr>
        </thead>
        <tbody>
          {requests.map((one) => (
            <tr key={one.id} className="border-b border-line align-top">
              <td className="py-1.5 pr-3">
                <Link href={`/share/requests/${one.id}`} className="text-verdigris underline">
                  {one.itemName}
                </Link>
              </td>
              <td className="py-1.5 pr-3 wrap-anywhere">{audienceOf(one.wish)}</td>
              <td className="py-1.5 pr-3 wrap-anywhere">{one.askedBy}</td>
              <td className="py-1.5 pr-3 tabular-nums">{dates.day(one.askedAt)}</td>
              <td className="py-1.5">{STATE_WORDS[one.state]}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
