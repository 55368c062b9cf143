"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { registerOperations } from "@/contract/register";
import { isChosen, justThis } from "@/core/query/edit";
import type { FacetName } from "@/core/query/facets";
import type { Term } from "@/core/query/query";
import { FacetLine } from "../parts/FacetLine";
import { asked } from "../parts/ask";

interface Props {
  title: string;
  field: FacetName;
  query: string;
  past: string | null;
  terms: Term[];
  onToggle: (value: string) => void;
  onClose: () => void;
}

/** All values of a long facet, those with some letters in them, the most frequent first. */
export function FacetSearch({ title, field, query, past, terms, onToggle, onClose }: Props) {
  const [text, setText] = useState("");
  const { data } = useQuery({
    ...asked(registerOperations.facet, { query: { query, field, text }, past }),
    placeholderData: keepPreviousData,
  });
  const most = Math.max(1, ...(data?.top.map(({ count }) => count) ?? []));
  return (
    <div className="mt-1">
      <div className="flex gap-1">
        <input
          autoFocus
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && onClose()}
          aria-label={`Search in ${title}`}
          placeholder="Search"
          className="h-6 min-w-0 grow rounded-[3px] border border-control bg-raised px-1.5 placeholder:text-ink-faint"
        />
        <button type="button" onClick={onClose} className="text-verdigris underline">
          Fewer
        </button>
      </div>
      {data?.top.length === 0 && <p className="text-ink-faint">No matches.</p>}
      <ul className="max-h-60 overflow-y-auto">
        {data?.top.map(({ value, title: words, count }) => (
          <FacetLine
            key={value}
            title={words}
            share={count / most}
            count={count}
            isChosen={isChosen(terms, field, justThis(value))}
            toggle={() => onToggle(value)}
          />
        ))}
      </ul>
    </div>
  );
}
