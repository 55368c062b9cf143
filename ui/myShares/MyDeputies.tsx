"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { mySharesOperations } from "@/contract/decisions";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";

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
  return (
    <section aria-labelledby="away" className="mt-8">
      <h2 id="away" className="text-[16px] font-semibold">
        While you are away
      </h2>
      {data?.length === 0 && (
        <p className="text-ink-soft">A colleague can decide in your place in rounds that open on those days.</p>
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
        <DeputyForm now={now} onDone={() => setOpen(false)} />
      ) : (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          Name a deputy…
        </Button>
      )}
    </section>
  );
}

function DeputyForm({ now, onDone }: { now: Seconds; onDone: () => void }) {
  const [deputy, setDeputy] = useState("");
  const from = useMoment("today", { now, edge: "start" });
  const until = useMoment("in 14 days", { now, edge: "end", min: now });
  const name = useChange(() =>
    ask(mySharesOperations.nameMyDeputy, { body: { deputy, from: rfc3339(from.at!), until: rfc3339(until.at!) } }),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (from.at !== null && until.at !== null) name.mutate(undefined, { onSuccess: onDone });
  };
  return (
    <form onSubmit={submit} className="mt-2 max-w-md border border-line-strong bg-surface p-3">
      <Field
        label="Address of your deputy"
        type="email"
        required
        value={deputy}
        onChange={({ target }) => setDeputy(target.value)}
      />
      <MomentField label="From" moment={from} />
      <MomentField label="Until" moment={until} />
      <p className="flex gap-2">
        <Button type="submit" look="act" disabled={name.isPending}>
          Save
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
      {name.error && <Notice tone="wrong">{name.error.message}</Notice>}
    </form>
  );
}
