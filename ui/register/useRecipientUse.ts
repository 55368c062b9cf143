"use client";

import { useQuery } from "@tanstack/react-query";
import type { Seconds } from "@/core/time/instant";
import type { ActsPage } from "@/core/trail/page";
import { asOf } from "../frame/viewer";
import { api } from "../parts/api";

export interface RecipientUse {
  opened: number;
  downloaded: number;
  last: Seconds;
}

/** The server tells at most so many acts at a time; of a share that was used more, the newest count. */
const MOST = 500;

/** What each recipient has done with a share, by address, as the trail has it; empty until it is known. */
export function useRecipientUse(id: string, past: string | null): Map<string, RecipientUse> {
  const asked = `share=${encodeURIComponent(id)}&verb=opened&verb=downloaded&count=${MOST}`;
  const { data } = useQuery({
    queryKey: ["trail", "use", id, past],
    queryFn: ({ signal }) => api<ActsPage>(asOf(`/api/trail?${asked}`, past), { signal }),
  });
  const uses = new Map<string, RecipientUse>();
  for (const { who, verb, at } of data?.acts ?? []) {
    const address = who?.people?.[0];
    if (address === undefined) continue;
    const use = uses.get(address) ?? { opened: 0, downloaded: 0, last: at };
    if (verb === "opened") use.opened++;
    else use.downloaded++;
    uses.set(address, use);
  }
  return uses;
}
