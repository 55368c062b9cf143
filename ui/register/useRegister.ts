"use client";

import { keepPreviousData, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { registerOperations } from "@/contract/register";
import type { RegisterLine, RegisterPage } from "@/core/query/page";
import type { Grouping } from "@/core/query/outline";
import type { GroupOrder } from "@/core/query/totals";
import { ask, asked, keyOf } from "../parts/ask";

/** So many lines are fetched at a time. */
export const PAGE = 100;

export interface Asked {
  query: string;
  order: string;
  group: Grouping | null;
  groups: GroupOrder;
  /** Keys of the open groups. */
  open: readonly string[];
  /** The past instant that is asked about; null is now. */
  past: string | null;
}

function pageQuery({ query, order, group, groups, open, past }: Asked, page: number, behind?: string) {
  const asked = {
    ...{ query, order, group, groups, from: page * PAGE, count: PAGE },
    ...(open.length > 0 && { open: open.join("\n") }),
    ...(behind && !group && { behind }),
  };
  return {
    // Whatever it goes on behind, it is the same page.
    queryKey: [...keyOf(registerOperations.registerPage), { query, order, group, groups, open, past }, page],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      ask(registerOperations.registerPage, { query: asked, past, signal }),
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
    ...asked(registerOperations.funnel, { query: { query }, past }),
    placeholderData: keepPreviousData,
  });
}

/** Ids of everything that a query finds, for marking it all at once. */
export async function allIds(query: string, past: string | null): Promise<string[]> {
  return (await ask(registerOperations.ids, { query: { query }, past })).ids;
}
