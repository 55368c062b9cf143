"use client";

import { keepPreviousData, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Funnel, RegisterLine, RegisterPage } from "@/core/query/page";
import type { Grouping } from "@/core/query/outline";
import { asOf } from "../frame/viewer";
import { api } from "../parts/api";

/** So many lines are fetched at a time. */
export const PAGE = 100;

export interface Asked {
  query: string;
  order: string;
  group: Grouping | null;
  /** Keys of the open groups. */
  open: readonly string[];
  /** The past instant that is asked about; null is now. */
  past: string | null;
}

function pageQuery(asked: Asked, page: number, behind?: string) {
  const parameters = new URLSearchParams({
    query: asked.query,
    order: asked.order,
    from: String(page * PAGE),
    count: String(PAGE),
    ...(asked.group && { group: asked.group }),
    ...(asked.open.length > 0 && { open: asked.open.join("\n") }),
    ...(behind && !asked.group && { behind }),
  });
  return {
    queryKey: ["register", asked, page],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      api<RegisterPage>(asOf(`/api/register?${parameters}`, asked.past), { signal }),
  };
}

/** What a query finds: how many, and the lines of the pages that are in sight. */
export function useRegister(asked: Asked, firstIndex: number, lastIndex: number) {
  const client = useQueryClient();
  const head = useQuery({ ...pageQuery(asked, 0), placeholderData: keepPreviousData });
  const pages: number[] = [];
  for (let page = Math.floor(firstIndex / PAGE); page <= Math.floor(lastIndex / PAGE); page++)
    if (page > 0) pages.push(page);
  // A page goes on behind the last share of the one before, where that is here already.
  const lastOf = (page: number) => {
    const line = client.getQueryData<RegisterPage>(pageQuery(asked, page).queryKey)?.page[PAGE - 1];
    return line?.kind === "share" ? line.row.id : undefined;
  };
  const loaded = useQueries({ queries: pages.map((page) => pageQuery(asked, page, lastOf(page - 1))) });
  const lineAt = (index: number): RegisterLine | undefined => {
    const page = Math.floor(index / PAGE);
    const data = page === 0 ? head.data : loaded[pages.indexOf(page)]?.data;
    return data?.page[index % PAGE];
  };
  return { head, lineAt };
}

/** Counts of every facet for a query. */
export function useFunnel(query: string, past: string | null) {
  return useQuery({
    queryKey: ["register", "funnel", query, past],
    queryFn: ({ signal }) =>
      api<Funnel>(asOf(`/api/register/funnel?${new URLSearchParams({ query })}`, past), { signal }),
    placeholderData: keepPreviousData,
  });
}

/** Ids of everything that a query finds, for marking it all at once. */
export async function allIds(query: string, past: string | null): Promise<string[]> {
  return (await api<{ ids: string[] }>(asOf(`/api/register/ids?${new URLSearchParams({ query })}`, past))).ids;
}
