"use client";

import { useQuery } from "@tanstack/react-query";
import { trailOperations } from "@/contract/trail";
import type { Seconds } from "@/core/time/instant";
import { asked } from "../parts/ask";

export interface RecipientUse {
  opened: number;
  downloaded: number;
  last: Seconds;
}

/** The server tells at most so many events at a time; of a share that was used more, the newest count. */
const MOST = 500;

/** What each recipient has done with a share, by address, as the trail has it; empty until it is known. */
export function useRecipientUse(id: string, past: string | null): Map<string, RecipientUse> {
  const search = `share=${encodeURIComponent(id)}&verb=opened&verb=downloaded`;
  const { data } = useQuery({
    ...asked(trailOperations.events, { query: { search, count: MOST }, past }),
  });
  const uses = new Map<string, RecipientUse>();
  for (const { who, verb, at } of data?.events ?? []) {
    const address = who?.people?.[0];
    if (address === undefined) continue;
    const use = uses.get(address) ?? { opened: 0, downloaded: 0, last: at };
    if (verb === "opened") use.opened++;
    else use.downloaded++;
    uses.set(address, use);
  }
  return uses;
}
