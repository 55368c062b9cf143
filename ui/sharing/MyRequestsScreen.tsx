"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { askingOperations } from "@/contract/sharing";
import { type ShareRequest, STATE_WORDS } from "@/core/sharing/request";
import { wishWords } from "@/core/sharing/wish";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";

/** What whoever signs in has asked for, and what has become of it. */
export function MyRequestsScreen() {
  const { data, error } = useQuery({ ...asked(askingOperations.myRequests), refetchInterval: 10_000 });
  return (
    <main className="mx-auto min-h-screen max-w-3xl bg-raised px-4 py-5 sm:px-8">
      <h1 className="mb-1 text-[22px] font-semibold">Your requests</h1>
      <p className="mb-3">
        <Link href="/my-shares/ask" className="text-verdigris underline">
          Ask for a share
        </Link>
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data?.length === 0 && <p className="max-w-prose">You haven’t asked for anything yet.</p>}
      <ul>
        {data?.map((one) => (
          <li key={one.id} className="border-t border-line py-3">
            <OneRequest request={one} />
          </li>
        ))}
      </ul>
    </main>
  );
}

function OneRequest({ request: { id, wish, itemName, askedAt, state, word, dueAt } }: { request: ShareRequest }) {
  const dates = useDates();
  const client = useQueryClient();
  const withdraw = useMutation({
    mutationFn: () => ask(askingOperations.withdrawRequest, { params: { id } }),
    onSettled: () => client.invalidateQueries(),
  });
  return (
    <>
      <p className="wrap-anywhere">{wishWords(wish, itemName)}</p>
      <p className="text-ink-soft">
        <b className="font-semibold">{STATE_WORDS[state]}</b>
        {state === "due" && dueAt !== null && `: on ${dates.moment(dueAt)}`}. Asked on {dates.moment(askedAt)}.
      </p>
      {word && <p className="mt-1 border-l-[3px] border-line-strong pl-3">{word}</p>}
      {withdraw.error && <Notice tone="wrong">{withdraw.error.message}</Notice>}
      {(state === "asked" || state === "due") && (
        <Button className="mt-2" disabled={withdraw.isPending} onClick={() => withdraw.mutate()}>
          Withdraw it
        </Button>
      )}
    </>
  );
}
