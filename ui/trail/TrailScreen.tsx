"use client";

import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { addressOf } from "@/contract/address";
import { trailOperations } from "@/contract/trail";
import type { EventPlace, EventsPage, GroupsPage } from "@/core/trail/page";
import { asOf, useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { EventLine } from "./EventLine";
import { TrailBar } from "./TrailBar";
import { TrailHistogramBars } from "./TrailHistogramBars";
import { TrailNarrowing } from "./TrailNarrowing";
import { useStoreNames } from "./useStoreNames";
import { type TrailView, useTrailSearch } from "./useTrailSearch";

/** Everything that has happened: searched, counted, told one by one or like with like. */
export function TrailScreen() {
  const view = useTrailSearch();
  const { viewer, past } = useStandpoint();
  const { zone, isLike } = view;
  const counts = useQuery({
    ...asked(trailOperations.eventCounts, { query: { search: view.asked, zone }, past }),
    placeholderData: keepPreviousData,
  });
  const found = counts.data?.found ?? 0;
  return (
    <div className="flex h-full flex-col">
      <h1 className="sr-only">Trail</h1>
      <TrailBar key={`${view.search.words} ${view.search.from} ${view.search.to} ${zone}`} view={view} />
      <div className="flex items-center gap-3 border-b border-line bg-surface px-3.5 py-1.5">
        <p aria-live="polite" className="tabular-nums">
          {counts.data ? (
            <>
              <b className="font-semibold">{found.toLocaleString("en-GB")}</b> of{" "}
              {countWords(counts.data.total, "event")}
            </>
          ) : (
            "Counting…"
          )}
        </p>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={isLike} onChange={(event) => view.setLike(event.target.checked)} />
          Group similar events of a day
        </label>
        <span className="grow" />
        <Exports search={view.asked} past={past} isNone={found === 0} />
        {viewer.mayChange && (
          <Link href={`/trail/watches?${view.asked}&new=yes`} className="text-verdigris underline">
            Make this a watch
          </Link>
        )}
        <Link href={asOf("/trail/watches", past)} className="text-verdigris underline">
          Watches
        </Link>
        <Link href={asOf("/alerts", past)} className="text-verdigris underline">
          Alerts
        </Link>
      </div>
      <div className="flex min-h-0 grow">
        <TrailNarrowing view={view} counts={counts.data} past={past} />
        <div className="flex min-w-0 grow flex-col bg-raised">
          {counts.error && <Notice tone="wrong">{counts.error.message}</Notice>}
          {counts.data && <TrailHistogramBars histogram={counts.data.histogram} view={view} />}
          {counts.data?.found === 0 ? (
            <div className="p-6">
              <Notice>
                {counts.data.total === 0
                  ? "No events yet. They come from reading stores and from estate files."
                  : "No events match."}
              </Notice>
              {counts.data.total > 0 && (
                <Button className="mt-3" onClick={view.clear}>
                  Show all events
                </Button>
              )}
            </div>
          ) : isLike ? (
            <GroupList view={view} past={past} />
          ) : (
            <EventList view={view} past={past} />
          )}
        </div>
      </div>
    </div>
  );
}

function Exports({ search, past, isNone }: { search: string; past: string | null; isNone: boolean }) {
  return (
    <form method="post" action={addressOf(trailOperations.exportTrail, { past })} className="flex gap-2">
      <input type="hidden" name="search" value={search} />
      {[
        ["csv", "Export CSV"],
        ["jsonl", "Export JSON Lines"],
      ].map(([format, words]) => (
        <Button key={format} type="submit" name="format" value={format} disabled={isNone}>
          {words}
        </Button>
      ))}
    </form>
  );
}

/** Pages of a list that goes on behind a place. */
function usePages<P extends { next: EventPlace | null }>(
  operation: typeof trailOperations.events | typeof trailOperations.eventGroups,
  { asked: search, zone }: TrailView,
  past: string | null,
) {
  return useInfiniteQuery({
    queryKey: [...keyOf(operation), search, zone, past],
    queryFn: ({ pageParam, signal }) =>
      ask(operation, { query: { search, zone, ...pageParam }, past, signal }) as Promise<unknown> as Promise<P>,
    initialPageParam: null as EventPlace | null,
    getNextPageParam: (page) => page.next,
  });
}

function EventList({ view, past }: { view: TrailView; past: string | null }) {
  const pages = usePages<EventsPage>(trailOperations.events, view, past);
  const nameOf = useStoreNames();
  const events = pages.data?.pages.flatMap((page) => page.events) ?? [];
  return (
    <List pages={pages}>
      {events.map((event) => (
        <EventLine
          key={event.seq}
          event={event}
          zone={view.zone}
          storeName={nameOf(event.source)}
          onSearch={view.change}
        />
      ))}
    </List>
  );
}

function GroupList({ view, past }: { view: TrailView; past: string | null }) {
  const pages = usePages<GroupsPage>(trailOperations.eventGroups, view, past);
  const nameOf = useStoreNames();
  const groups = pages.data?.pages.flatMap((page) => page.groups) ?? [];
  return (
    <List pages={pages}>
      {groups.map(({ event, ...like }) => (
        <EventLine
          key={event.seq}
          event={event}
          like={like}
          zone={view.zone}
          storeName={nameOf(event.source)}
          onSearch={view.change}
        />
      ))}
    </List>
  );
}

function List({
  pages,
  children,
}: {
  pages: { error: Error | null; isPending: boolean; hasNextPage: boolean; fetchNextPage: () => void };
  children: React.ReactNode;
}) {
  return (
    <div className="min-h-0 grow overflow-y-auto" tabIndex={0} role="region" aria-label="Events">
      {pages.error && <Notice tone="wrong">{pages.error.message}</Notice>}
      {pages.isPending && <Loading className="p-4" />}
      <ol>{children}</ol>
      {pages.hasNextPage && (
        <Button className="m-3.5" onClick={() => pages.fetchNextPage()}>
          Show older events
        </Button>
      )}
    </div>
  );
}
