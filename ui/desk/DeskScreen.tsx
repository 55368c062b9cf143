"use client";

import { useQuery } from "@tanstack/react-query";
import { addressOf } from "@/contract/address";
import clsx from "clsx";
import { useRouter } from "next/navigation";
import { Fragment, type KeyboardEvent, type ReactNode, useEffect, useRef } from "react";
import { alertsOperations } from "@/contract/alerts";
import { type Desk, deskOperations } from "@/contract/desk";
import { HistoryChart } from "../frame/HistoryChart";
import { asOf, useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useEvents } from "../parts/useEvents";
import { type Dates, toldIn } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { countWords, plainWords } from "../parts/words";
import { alertGroups } from "./alertGroups";
import { FirstLook } from "./FirstLook";
import { WhereToStart } from "./WhereToStart";
import { TightnessTable } from "./TightnessTable";

/** What needs attention, in the order of its urgency, and two pictures of how tight the estate is. */
export function DeskScreen() {
  return useStandpoint().past === null ? <DeskNow /> : <OfNow />;
}

function DeskNow() {
  const dates = useDates();
  const router = useRouter();
  // Reloads the Desk whenever alerts come.
  const news = useEvents(alertsOperations.alertNews);
  const { data, error } = useQuery({
    queryKey: [...keyOf(deskOperations.lookAtDesk), news?.fresh, dates.settings],
    queryFn: ({ signal }) => ask(deskOperations.lookAtDesk, { query: toldIn(dates), signal }),
    placeholderData: (before) => before,
    refetchInterval: 60_000,
  });
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(0,1fr)_480px]">
      <section aria-labelledby="attention" className="flex min-h-0 flex-col overflow-y-auto bg-raised px-6 py-5">
        <h1 id="attention" className="text-[20px] font-semibold">
          What needs attention
        </h1>
        <p className="mb-3 text-ink-soft">
          {data && sinceWords(data.lookedBefore, dates)} Arrows move, Enter opens.{" "}
          <a href={addressOf(deskOperations.dates)} className="text-verdigris underline">
            Upcoming dates as a calendar file
          </a>
        </p>
        <WhereToStart />
        {data?.lookedBefore === null && (
          <section aria-labelledby="first-look" className="mb-4 border-l-4 border-verdigris bg-surface px-4 py-3">
            <h2 id="first-look" className="mb-1 text-[16px] font-semibold">
              Your first visit: what was found
            </h2>
            <FirstLook />
            <p className="mt-2 text-ink-faint">You can see this again under Help.</p>
          </section>
        )}
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!data && !error && <Loading />}
        {data && data.alerts.length + data.lines.length === 0 && (
          <Notice>Nothing right now. Alerts, and anything that gets stuck, will appear here.</Notice>
        )}
        {data && (
          <Lines>
            {alertGroups(data.alerts).map(({ alerts, more }) => (
              <Fragment key={alerts[0].id}>
                {alerts.map((alert) => (
                  <AlertLine key={alert.id} alert={alert} />
                ))}
                {more > 0 && (
                  <Line href="/alerts" isPressing={false}>
                    <span className="w-[70px] shrink-0" />
                    <span className="grow text-ink-soft">
                      {countWords(more, "more alert")} like {more === 1 ? "this" : "these"}:{" "}
                      {alerts[0].watch ?? "A deleted watch"}
                    </span>
                  </Line>
                )}
              </Fragment>
            ))}
            {data.lines.map(({ words, href, isPressing }) => (
              <Line key={words + href} href={href} isPressing={isPressing}>
                {words}
              </Line>
            ))}
          </Lines>
        )}
      </section>
      <section
        aria-label="How tight it is"
        className="min-h-0 overflow-y-auto border-l border-line bg-surface px-5 py-5"
      >
        <h2 className="mb-2 text-[15px] font-semibold">How tightly outside shares are shut</h2>
        {data && <TightnessTable cells={data.tightness} />}
        <h2 className="mt-6 mb-2 text-[15px] font-semibold">How has outside sharing changed?</h2>
        <HistoryChart onDay={(at) => router.push(asOf("/register?q=outside%3Ayes", at))} />
      </section>
    </div>
  );
}

function sinceWords(before: string | null, dates: Dates): string {
  return before === null ? "This is your first visit." : `Your last visit was on ${dates.day(before)}.`;
}

function AlertLine({ alert }: { alert: Desk["alerts"][number] }) {
  const dates = useDates();
  const { now } = useStandpoint();
  return (
    <Line href={`/alerts?alert=${alert.id}`} isPressing={alert.severity !== "low"}>
      <span className={clsx("w-[70px] shrink-0", alert.severity === "urgent" ? "text-oxide" : "text-copper")}>
        {plainWords(alert.severity)}
      </span>
      <span className={clsx("min-w-0 grow wrap-anywhere", alert.state === "new" && "font-semibold")}>
        {alert.words}
        <span className="block text-[12.5px] font-normal text-ink-faint">
          {alert.watch ?? "A deleted watch"}
          {alert.count > 1 && `, ${alert.count.toLocaleString("en-GB")} events`}
        </span>
      </span>
      <span className="shrink-0 text-ink-soft">{dates.distance(alert.lastAt, now)}</span>
    </Line>
  );
}

/** One list, moved through with the arrow keys; its first line has the focus when the Desk is opened. */
function Lines({ children }: { children: ReactNode }) {
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => list.current?.querySelector("a")?.focus(), []);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const links = [...list.current!.querySelectorAll("a")];
    links[links.indexOf(document.activeElement as HTMLAnchorElement) + step]?.focus();
  };
  return (
    <ul ref={list} onKeyDown={onKeyDown}>
      {children}
    </ul>
  );
}

function Line({ href, isPressing, children }: { href: string; isPressing: boolean; children: ReactNode }) {
  return (
    <li className="border-t border-line">
      <Link href={href} className="flex gap-3 py-2 hover:bg-verdigris-soft focus:bg-verdigris-soft">
        <span
          aria-hidden
          className={clsx("mt-1 h-3.5 w-[5px] shrink-0", isPressing ? "bg-copper" : "border border-line-strong")}
        />
        {children}
      </Link>
    </li>
  );
}
