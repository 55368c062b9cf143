"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { trailOperations } from "@/contract/trail";
import type { TrailCounts, TrailFacet, ValueCount } from "@/core/trail/counts";
import type { TrailSearch } from "@/core/trail/search";
import { verbTitle } from "@/core/trail/verbs";
import { FacetLine } from "../parts/FacetLine";
import { Notice } from "../parts/Notice";
import { plainWords } from "../parts/words";
import { useStoreNames } from "./useStoreNames";
import type { TrailView } from "./useTrailSearch";
import { asked } from "../parts/ask";

const TITLES: Record<Exclude<TrailFacet, "people">, string> = {
  labels: "Label",
  parties: "Party outside",
  organisations: "Organisation outside",
};

interface Props {
  view: TrailView;
  counts: TrailCounts | undefined;
  past: string | null;
}

/** What the events found have in common, with counts; each part leaves its own choice out of its counts. */
export function TrailNarrowing({ view, counts, past }: Props) {
  const { search, change } = view;
  const { data, error } = useQuery({
    ...asked(trailOperations.eventFacets, { query: { search: view.asked }, past }),
    placeholderData: keepPreviousData,
  });
  const nameOf = useStoreNames();
  const list = (field: "verbs" | "stores" | Exclude<TrailFacet, "people">) => ({
    chosen: search[field] as string[],
    toggle: (value: string) => change({ [field]: toggled(search[field], value) } as Partial<TrailSearch>),
  });
  return (
    <nav aria-label="Narrow down" className="w-[208px] shrink-0 overflow-y-auto border-r border-line bg-surface pb-6">
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {counts && <Values title="What happened" values={counts.verbs} words={verbTitle} {...list("verbs")} />}
      {counts && <Values title="Store" values={counts.stores} words={nameOf} {...list("stores")} />}
      {data &&
        (Object.keys(TITLES) as (keyof typeof TITLES)[]).map((field) => (
          <Values
            key={field}
            title={TITLES[field]}
            values={data[field].top}
            words={field === "organisations" ? (one) => one : plainWords}
            {...list(field)}
          />
        ))}
      {data && (
        <Values
          title="Who did it"
          values={data.people.top}
          words={(one) => one}
          chosen={search.person === null ? [] : [search.person]}
          toggle={(person) => change(person === search.person ? { person: null } : { person, side: "actor" })}
        />
      )}
    </nav>
  );
}

function toggled(values: readonly string[], value: string): string[] {
  return values.includes(value) ? values.filter((one) => one !== value) : [...values, value];
}

interface ValuesProps {
  title: string;
  values: ValueCount[];
  words: (value: string) => string;
  chosen: readonly string[];
  toggle: (value: string) => void;
}

function Values({ title, values, words, chosen, toggle }: ValuesProps) {
  const most = Math.max(1, ...values.map(({ count }) => count));
  // What is chosen stays in sight, so that it can be dropped.
  const missing = chosen.filter((value) => !values.some((one) => one.value === value));
  if (values.length + missing.length === 0) return null;
  return (
    <section aria-label={title} className="border-b border-line px-3 py-2">
      <h2 className="text-[12px] font-semibold text-ink-faint">{title}</h2>
      <ul>
        {[...values, ...missing.map((value) => ({ value, count: 0 }))].map(({ value, count }) => (
          <FacetLine
            key={value}
            title={words(value)}
            share={count / most}
            count={count}
            isChosen={chosen.includes(value)}
            toggle={() => toggle(value)}
          />
        ))}
      </ul>
    </section>
  );
}
