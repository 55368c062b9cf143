"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useState } from "react";
import { directoryOperations, type SourceTold } from "@/contract/directory";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { SOURCE_WORDS } from "./words";

interface Props {
  sources: readonly SourceTold[];
  mayChange: boolean;
}

/** The order in which sources are believed, and how to set another. */
export function BeliefPart({ sources, mayChange }: Props) {
  const dates = useDates();
  const client = useQueryClient();
  const [order, setOrder] = useState(sources);
  const isChanged = order.some((one, i) => one.name !== sources[i].name);
  const save = useMutation({
    mutationFn: () => ask(directoryOperations.setBelief, { body: { order: order.map(({ name }) => name) } }),
    onSuccess: () => client.invalidateQueries(),
  });
  const move = (from: number, to: number) => {
    const moved = [...order];
    moved.splice(to, 0, ...moved.splice(from, 1));
    setOrder(moved);
  };
  return (
    <section aria-labelledby="belief" className="mt-8 max-w-3xl">
      <h2 id="belief" className="text-[17px] font-semibold">
        Order of sources
      </h2>
      <p className="text-ink-soft">
        When several sources describe the same person, each of their name, status, department, manager and last day
        comes from the first source in this order that has it. Anything set here in Tight Latch comes before them all.
      </p>
      {order.length === 0 && <p className="mt-2">No source has been read yet.</p>}
      <ol className="mt-2">
        {order.map(({ name, title, kind, firstToldAt }, i) => (
          <li key={name} className="flex items-center gap-3 border-t border-line py-1.5">
            <span className="w-6 text-right text-ink-faint tabular-nums">{i + 1}</span>
            <span className="grow">
              <b className="font-semibold">{title}</b>{" "}
              <span className="text-ink-soft">
                {SOURCE_WORDS[kind]}, since {dates.day(firstToldAt)}
              </span>
            </span>
            {mayChange && (
              <span className="flex gap-1">
                <Button aria-label={`Move ${title} up`} disabled={i === 0} onClick={() => move(i, i - 1)}>
                  <ArrowUp aria-hidden size={14} />
                </Button>
                <Button
                  aria-label={`Move ${title} down`}
                  disabled={i === order.length - 1}
                  onClick={() => move(i, i + 1)}
                >
                  <ArrowDown aria-hidden size={14} />
                </Button>
              </span>
            )}
          </li>
        ))}
      </ol>
      {isChanged && (
        <p className="mt-2 flex items-center gap-2">
          <Button look="act" disabled={save.isPending} onClick={() => save.mutate()}>
            Save the order
          </Button>
          <Button onClick={() => setOrder(sources)}>Cancel</Button>
          <span className="text-ink-soft">This changes what past dates show too.</span>
        </p>
      )}
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
    </section>
  );
}
