"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { mySharesOperations } from "@/contract/decisions";
import type { Seconds } from "@/core/time/instant";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { DeputyForm } from "../parts/DeputyForm";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";

function useChange<Given>(change: (given: Given) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(mySharesOperations.myDeputies) }),
  });
}

/** Who decides in one's place while one is away. */
export function MyDeputies({ now }: { now: Seconds }) {
  const dates = useDates();
  const { data } = useQuery(asked(mySharesOperations.myDeputies));
  const [isOpen, setOpen] = useState(false);
  const end = useChange((id: number) => ask(mySharesOperations.endMyDeputy, { params: { id: String(id) } }));
  const name = useChange(({ deputy, from, until }: { deputy: string; from: string; until: string }) =>
    ask(mySharesOperations.nameMyDeputy, { body: { deputy, from, until } }),
  );
  return (
    <section aria-labelledby="away" className="mt-8">
      <h2 id="away" className="text-[16px] font-semibold">
        While you are away
      </h2>
      {data?.length === 0 && (
        <p className="text-ink-soft">A colleague can decide for you in rounds that open while you are away.</p>
      )}
      <ul>
        {data?.map(({ id, deputy, from, until }) => (
          <li key={id} className="flex flex-wrap items-center gap-3 border-t border-line py-2">
            <span className="min-w-0 grow wrap-anywhere">
              {deputy}, {dates.day(from)} to {dates.day(until)}
            </span>
            <Button onClick={() => end.mutate(id)}>End it</Button>
          </li>
        ))}
      </ul>
      {end.error && <Notice tone="wrong">{end.error.message}</Notice>}
      {isOpen ? (
        <DeputyForm now={now} save={name.mutateAsync} onDone={() => setOpen(false)} />
      ) : (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          Add a deputy…
        </Button>
      )}
    </section>
  );
}
