"use client";

import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { NuqsAdapter } from "nuqs/adapters/next/app";
import { useState } from "react";
import { type MyRound, mySharesOperations } from "@/contract/decisions";
import type { DateSettings } from "@/core/time/style";
import type { Seconds } from "@/core/time/instant";
import { DecideAt } from "../decide/DecideScreen";
import { doorBySignIn } from "../decide/door";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { signOut } from "../parts/signOut";
import { Button } from "../parts/Button";
import { AskScreen } from "../sharing/AskScreen";
import { MyRequestsScreen } from "../sharing/MyRequestsScreen";
import { MyDeputies } from "./MyDeputies";
import { DateSettingsContext, useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

/** What is looked at: a round by its number; null for the list of them. */
export type MyPage = number | null | "ask" | "requests";

interface Props {
  name: string;
  page: MyPage;
  /** Whether they see the console as well. */
  seesConsole: boolean;
  dates: DateSettings | null;
  now: Seconds;
}

/** What whoever signs in is asked to decide: the same as in the mails. */
export function MySharesScreen({ name, page, seesConsole, dates, now }: Props) {
  const [client] = useState(() => new QueryClient());
  return (
    <QueryClientProvider client={client}>
      <DateSettingsContext value={dates}>
        <header className="bg-band text-band-ink">
          <nav
            aria-label="Your shares"
            className="mx-auto flex max-w-3xl flex-wrap items-center gap-4 px-4 py-2 sm:px-8"
          >
            <Link href="/my-shares" className="font-semibold">
              My shares
            </Link>
            <Link href="/my-shares/requests">Requests</Link>
            {seesConsole && <Link href="/desk">Console</Link>}
            <Link href="/account">Your account</Link>
            <span className="grow" />
            {name}
            <button type="button" className="underline" onClick={() => void signOut()}>
              Sign out
            </button>
          </nav>
        </header>
        <NuqsAdapter>
          <Shown page={page} now={now} />
        </NuqsAdapter>
      </DateSettingsContext>
    </QueryClientProvider>
  );
}

function Shown({ page, now }: { page: MyPage; now: Seconds }) {
  if (page === "ask") return <AskScreen now={now} />;
  if (page === "requests") return <MyRequestsScreen />;
  return page === null ? <List now={now} /> : <DecideAt door={doorBySignIn(page)} now={now} />;
}

function List({ now }: { now: Seconds }) {
  const { data, error, refetch } = useQuery(asked(mySharesOperations.myRounds));
  return (
    <main className="mx-auto min-h-screen max-w-3xl bg-raised px-4 py-5 sm:px-8">
      <h1 className="text-[22px] font-semibold">My shares</h1>
      {error && (
        <Notice tone="wrong">
          {error.message} <Button onClick={() => void refetch()}>Try again</Button>
        </Notice>
      )}
      {!data && !error && <Loading />}
      {data?.length === 0 && (
        <p className="mt-2 max-w-prose">
          You have nothing to decide. When a round asks about your shares, they will appear here and you will get a
          mail.
        </p>
      )}
      <ul>
        {data?.map((one) => (
          <li key={one.round} className="border-b border-line py-3">
            <RoundOfMine one={one} now={now} />
          </li>
        ))}
      </ul>
      <section className="mt-6">
        <h2 className="text-[17px] font-semibold">Share something</h2>
        <p className="mt-1">
          <Link href="/my-shares/ask" className="text-verdigris underline">
            Ask for a share
          </Link>{" "}
          of one of your files, or see{" "}
          <Link href="/my-shares/requests" className="text-verdigris underline">
            what became of your requests
          </Link>
          .
        </p>
      </section>
      <MyDeputies now={now} />
    </main>
  );
}

function RoundOfMine({ one: { round, name, state, closes, lines, open }, now }: { one: MyRound; now: Seconds }) {
  const dates = useDates();
  return (
    <>
      <Link href={`/my-shares/${round}`} className="font-semibold text-verdigris underline">
        {name}
      </Link>
      <p className="text-ink-soft">
        {state === "open"
          ? `${open} of ${countWords(lines, "share")} to decide by ${dates.day(closes)}, ${dates.distance(closes, now)}.`
          : `Closed. ${countWords(lines, "share")} of yours.`}
      </p>
    </>
  );
}
