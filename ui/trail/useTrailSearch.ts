"use client";

import { useSearchParams } from "next/navigation";
import { useMemo } from "react";
import { useDates } from "../parts/useDates";
import { NOTHING_ASKED, parseSearch, printSearch, type TrailSearch } from "@/core/trail/search";

/** What the trail shows, as it stands in the address bar: the search, the zone of its clocks, and whether like events are told as one. */
export function useTrailSearch() {
  const own = useDates().settings.zone;
  const parameters = useSearchParams();
  const text = parameters.toString();
  return useMemo(() => {
    const held = new URLSearchParams(text);
    const search = parseSearch(held);
    const zone = held.get("zone") ?? own;
    const isLike = held.get("like") === "yes";
    const past = held.get("at");
    const go = (next: { search?: TrailSearch; zone?: string; isLike?: boolean }) => {
      const address = printSearch(next.search ?? search);
      if ((next.zone ?? zone) !== own) address.set("zone", next.zone ?? zone);
      if (next.isLike ?? isLike) address.set("like", "yes");
      if (past) address.set("at", past);
      window.history.pushState(null, "", `?${address}`);
    };
    return {
      search,
      zone,
      isLike,
      /** The search alone, as the server is asked. */
      asked: printSearch(search).toString(),
      change: (part: Partial<TrailSearch>) => go({ search: { ...search, ...part } }),
      clear: () => go({ search: NOTHING_ASKED }),
      setZone: (next: string) => go({ zone: next }),
      setLike: (next: boolean) => go({ isLike: next }),
    };
  }, [text, own]);
}
export type TrailView = ReturnType<typeof useTrailSearch>;
