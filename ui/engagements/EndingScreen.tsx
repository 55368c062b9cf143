"use client";

import { QueryClient, QueryClientProvider, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type EngagementAsked, engagementsOperations } from "@/contract/engagements";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useFragment } from "../parts/useFragment";
import { countWords, listWords } from "../parts/words";
import { ExtendForm } from "./ExtendForm";
import { SharesList } from "./SharesList";

/** The page that a mail leads the responsible person to: extend an engagement with a reason, or let it end. */
export function EndingScreen({ now }: { now: Seconds }) {
  const token = useFragment();
  const [client] = useState(() => new QueryClient());
  return (
    <QueryClientProvider client={client}>
      <main className="mx-auto min-h-screen max-w-2xl bg-raised px-4 py-6 sm:px-8">
        {token === null ? <Loading /> : <Asked token={token} now={now} />}
      </main>
    </QueryClientProvider>
  );
}

function Asked({ token, now }: { token: string; now: Seconds }) {
  const { data, error } = useQuery({
    ...asked(engagementsOperations.engagementAsked, { body: { token } }),
    retry: false,
  });
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  return data ? <Ending {...{ token, now, told: data }} /> : <Loading />;
}

function Ending({ token, now, told }: { token: string; now: Seconds; told: EngagementAsked }) {
  const dates = useDates();
  const client = useQueryClient();
  const [isExtending, setExtending] = useState(false);
  const done = (answer: EngagementAsked) => {
    setExtending(false);
    client.setQueryData(asked(engagementsOperations.engagementAsked, { body: { token } }).queryKey, answer);
  };
  const extend = useMutation({
    mutationFn: ({ at, reason }: { at: Seconds; reason: string }) =>
      ask(engagementsOperations.engagementExtended, { body: { token, ends: rfc3339(at), reason } }),
    onSuccess: done,
  });
  const letEnd = useMutation({
    mutationFn: () => ask(engagementsOperations.engagementLetEnd, { body: { token } }),
    onSuccess: done,
  });
  const { name, organisations, ends, graceDays, shares, latest } = told;
  return (
    <>
      <h1 className="text-[22px] leading-tight font-semibold wrap-anywhere">{name}</h1>
      <p className="mt-1 text-ink-soft">
        With {listWords(organisations)}. It ends on <b className="font-semibold">{dates.day(ends)}</b>,{" "}
        {dates.distance(ends, now)}. {countWords(graceDays, "day")} later, everything shared for it ends, once an
        administrator has reviewed it.
      </p>
      <p role="status" className="mt-2 font-semibold text-verdigris">
        {extend.isSuccess && "The end date has been changed. You can close this page."}
        {letEnd.isSuccess && "It will end as planned. There is nothing more to do; you can close this page."}
      </p>
      {!extend.isSuccess && !letEnd.isSuccess && (
        <div className="mt-3 flex flex-wrap gap-2">
          <Button look="act" aria-expanded={isExtending} onClick={() => setExtending(!isExtending)}>
            Extend it
          </Button>
          <Button disabled={letEnd.isPending} onClick={() => letEnd.mutate()}>
            Let it end
          </Button>
        </div>
      )}
      {isExtending && (
        <ExtendForm
          {...{ now, latest, isPending: extend.isPending }}
          onExtend={(at, reason) => extend.mutate({ at, reason })}
        />
      )}
      {(extend.error ?? letEnd.error) && <Notice tone="wrong">{(extend.error ?? letEnd.error)!.message}</Notice>}
      <h2 className="mt-6 text-[17px] font-semibold">
        {shares.length === 0 ? "Nothing is shared for it now" : `${countWords(shares.length, "share")} for it now`}
      </h2>
      <SharesList shares={shares} name={({ item }) => <b className="font-semibold wrap-anywhere">{item}</b>} />
    </>
  );
}
