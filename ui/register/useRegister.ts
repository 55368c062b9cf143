"use client";

import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import type { Sort } from "@/core/query/match";
import type { RegisterPage } from "@/core/register/detail";
import type { RegisterRow } from "@/core/register/row";
import { asOf } from "../frame/viewer";
import { api } from "../parts/api";

const PAGE = 100;

export interface Asked {
  query: string;
  sort: Sort;
  reversed: boolean;
  /** The past instant that is asked about; null is now. */
  past: string | null;
}

function pageQuery(asked: Asked, page: number) {
  const parameters = new URLSearchParams({
    query: asked.query,
    sort: asked.sort,
    reversed: String(asked.reversed),
    from: String(page * PAGE),
    count: String(PAGE),
  });
  return {
    queryKey: ["register", asked, page],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      api<RegisterPage>(asOf(`/api/register?${parameters}`, asked.past), { signal }),
  };
}

/** What a query finds: how many, and the rows of the pages that are in sight. */
export function useRegister(asked: Asked, firstIndex: number, lastIndex: number) {
  const head = useQuery({ ...pageQuery(asked, 0), placeholderData: keepPreviousData });
  const pages: number[] = [];
  for (let page = Math.floor(firstIndex / PAGE); page <= Math.floor(lastIndex / PAGE); page++)
    if (page > 0) pages.push(page);
  const loaded = useQueries({ queries: pages.map((page) => pageQuery(asked, page)) });
  const rowAt = (index: number): RegisterRow | undefined => {
    const page = Math.floor(index / PAGE);
    const data = page === 0 ? head.data : loaded[pages.indexOf(page)]?.data;
    return data?.rows[index % PAGE];
  };
  return { head, rowAt };
}

/** Ids of everything that a query finds, for marking it all at once. */
export async function allIds(query: string): Promise<string[]> {
  return (await api<{ ids: string[] }>(`/api/register/ids?${new URLSearchParams({ query })}`)).ids;
}
