"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import type { z } from "zod";
import { roundsOperations, type StandIns } from "@/contract/rounds";
import { useStandpoint } from "../frame/viewer";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { DeputyForm } from "../parts/DeputyForm";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";

/** Who is asked in rounds besides owners: heads of departments, and whoever stands in for somebody on some days. */
export function StandInsPart() {
  const { viewer } = useStandpoint();
  const { data, error } = useQuery(asked(roundsOperations.standIns));
  return (
    <section id="stand-ins" aria-labelledby="stand-ins-title" className="max-w-3xl">
      <h1 id="stand-ins-title" className="mb-1 text-[20px] font-semibold">
        Deciders in rounds
      </h1>
      <p className="mb-2 text-ink-soft">
        A round can ask the head of a department when there is no owner. A deputy decides in somebody’s place for a few
        days.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && <Heads heads={data.heads} mayChange={viewer.mayChange} />}
      {data && <Deputies deputies={data.deputies} mayChange={viewer.mayChange} />}
    </section>
  );
}

function useChange<Given>(change: (given: Given) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(roundsOperations.standIns) }),
  });
}

function Heads({ heads, mayChange }: { heads: StandIns["heads"]; mayChange: boolean }) {
  const set = useChange((body: { department: string; person: string | null }) =>
    ask(roundsOperations.setHead, { body }),
  );
  return (
    <>
      <h2 className="mt-3 font-semibold">Heads of departments</h2>
      {heads.length === 0 && <p className="text-ink-soft">No source names any departments.</p>}
      <ul>
        {heads.map(({ department, person, name }) => (
          <li key={department} className="flex flex-wrap items-center gap-3 border-t border-line py-1.5">
            <span className="w-52 shrink-0">{department}</span>
            <span className="min-w-0 grow wrap-anywhere">
              {person === null ? <span className="text-ink-faint">nobody</span> : `${name ?? person}, ${person}`}
            </span>
            {mayChange && <HeadForm department={department} person={person} set={set.mutate} />}
          </li>
        ))}
      </ul>
      {set.error && <Notice tone="wrong">{set.error.message}</Notice>}
    </>
  );
}

interface HeadProps {
  department: string;
  person: string | null;
  set: (given: { department: string; person: string | null }) => void;
}

function HeadForm({ department, person, set }: HeadProps) {
  const [isOpen, setOpen] = useState(false);
  const [address, setAddress] = useState(person ?? "");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    set({ department, person: address.trim() === "" ? null : address });
    setOpen(false);
  };
  if (!isOpen)
    return (
      <Button aria-label={`Set the head of ${department}`} onClick={() => setOpen(true)}>
        Set…
      </Button>
    );
  return (
    <form onSubmit={submit} className="flex items-center gap-2">
      <input
        type="email"
        aria-label={`Address of the head of ${department} (leave empty for nobody)`}
        value={address}
        onChange={({ target }) => setAddress(target.value)}
        className="h-[30px] w-60 rounded-[3px] border border-control bg-raised px-2"
      />
      <Button type="submit" look="act">
        Save
      </Button>
      <Button onClick={() => setOpen(false)}>Cancel</Button>
    </form>
  );
}

function Deputies({ deputies, mayChange }: { deputies: StandIns["deputies"]; mayChange: boolean }) {
  const dates = useDates();
  const { now } = useStandpoint();
  const [isOpen, setOpen] = useState(false);
  const name = useChange((body: z.input<typeof roundsOperations.nameDeputy.body>) =>
    ask(roundsOperations.nameDeputy, { body }),
  );
  const end = useChange((id: number) => ask(roundsOperations.endDeputy, { params: { id: String(id) } }));
  return (
    <>
      <h2 className="mt-4 font-semibold">Deputies</h2>
      {deputies.length === 0 && <p className="text-ink-soft">No deputies.</p>}
      <ul>
        {deputies.map(({ id, person, deputy, from, until }) => (
          <li key={id} className="flex flex-wrap items-center gap-3 border-t border-line py-1.5">
            <span className="min-w-0 grow wrap-anywhere">
              {deputy} for {person}, {dates.day(from)} to {dates.day(until)}
            </span>
            {mayChange && <Button onClick={() => end.mutate(id)}>End it</Button>}
          </li>
        ))}
      </ul>
      {end.error && <Notice tone="wrong">{end.error.message}</Notice>}
      {mayChange && !isOpen && (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          Add a deputy…
        </Button>
      )}
      {isOpen && <DeputyForm now={now} forWhom save={name.mutateAsync} onDone={() => setOpen(false)} />}
    </>
  );
}
