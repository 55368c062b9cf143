"use client";

import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { roundsOperations } from "@/contract/rounds";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import type { Draft } from "./draft";

const WAIT_MS = 300;

/** What the round would be, were it opened now. */
export function ForecastPane({ draft }: { draft: Draft }) {
  const { query, order, named } = useSettled(draft);
  const { data, error, isFetching } = useQuery({
    ...asked(roundsOperations.forecastRound, { body: { query, order, named } }),
    placeholderData: (before) => before,
    retry: false,
  });
  return (
    <section
      aria-label="Preview of the round"
      aria-busy={isFetching}
      className="min-h-0 overflow-y-auto border-l border-line-strong bg-surface px-5 py-5"
    >
      <h2 className="mb-2 text-[15px] font-semibold">If it opened now</h2>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && !error && (
        <>
          <p role="status" className="text-[17px] leading-snug">
            {countWords(data.lines, "share")}, decided by {countWords(data.deciders, "person", "people")}.
          </p>
          {data.lines === 0 && <Notice>No shares match, so there is nothing to ask about. Widen the query.</Notice>}
          {data.nobodys > 0 && (
            <p className="mt-1 text-copper">
              For {countWords(data.nobodys, "share")} there is nobody to ask: administrators decide about{" "}
              {data.nobodys === 1 ? "it" : "them"}. Add another kind of decider, or name somebody.
            </p>
          )}
          {data.most.length > 0 && (
            <>
              <h3 className="mt-4 mb-1 font-semibold">Who gets the most</h3>
              <ul>
                {data.most.map(({ address, name, lines }) => (
                  <li key={address} className="flex gap-3 border-t border-line py-1">
                    <span className="min-w-0 grow wrap-anywhere">
                      {name}
                      <span className="block text-[12px] text-ink-faint">{address}</span>
                    </span>
                    <span className="tabular-nums">{lines.toLocaleString("en-GB")}</span>
                  </li>
                ))}
              </ul>
              <p className="mt-2 text-ink-faint">
                Most people take about 20 seconds a share. For more than a hundred shares, ask by outsider or by
                organisation instead.
              </p>
            </>
          )}
        </>
      )}
    </section>
  );
}

/** What is asked about, once nobody has typed for a moment. */
function useSettled({ q, order, named }: Draft) {
  const wanted = JSON.stringify({
    query: q,
    order,
    named: order.includes("named") && named.includes("@") ? named : null,
  });
  const [settled, setSettled] = useState(wanted);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(wanted), WAIT_MS);
    return () => clearTimeout(timer);
  }, [wanted]);
  return JSON.parse(settled) as { query: string; order: Draft["order"]; named: string | null };
}
