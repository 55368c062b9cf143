"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { docketsOperations } from "@/contract/dockets";
import { seconds } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";

/** What Tight Latch will revoke by itself, since the stores can't keep the end. */
export function OrdersPart() {
  const { viewer, now, past } = useStandpoint();
  const dates = useDates();
  const client = useQueryClient();
  const { data, error } = useQuery({
    ...asked(docketsOperations.orders),
  });
  const drop = useMutation({
    mutationFn: (id: number) => ask(docketsOperations.dropOrder, { body: { id } }),
    onSettled: () => client.invalidateQueries(),
  });
  const problem = error ?? drop.error;
  return (
    <section aria-labelledby="orders" className="max-w-3xl">
      <h1 id="orders" className="mb-1 text-[20px] font-semibold">
        Standing orders
      </h1>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {data?.orders.length === 0 && (
        <p className="text-ink-soft">
          None. Where a store can’t keep an end date, a share that gets one gets a standing order instead.
        </p>
      )}
      <ul>
        {data?.orders.map(({ id, shareId, itemName, on, by }) => (
          <li key={id} className="flex items-center gap-4 border-t border-line py-1.5">
            <span className="w-44 shrink-0">
              {dates.day(on)}
              <span className="block text-[12px] text-ink-faint">{dates.distance(seconds(on), now)}</span>
            </span>
            <span className="grow">
              Revoke a share of{" "}
              <Link href={`/register?share=${encodeURIComponent(shareId)}`} className="text-verdigris underline">
                {itemName}
              </Link>
              <span className="block text-[12px] text-ink-faint">given by {by}</span>
            </span>
            {viewer.mayChange && past === null && <Button onClick={() => drop.mutate(id)}>Cancel it</Button>}
          </li>
        ))}
      </ul>
    </section>
  );
}
