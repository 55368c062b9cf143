"use client";

import type { ReactNode } from "react";
import type { EngagementShare } from "@/core/engagements/engagements";
import { useDates } from "../parts/useDates";
import { listWords } from "../parts/words";

interface Props {
  shares: readonly EngagementShare[];
  /** The name of a share's item: in the console it leads to the share. */
  name: (share: EngagementShare) => ReactNode;
}

/** Outside shares on the items of an engagement: for whom each is, and whether it was used. */
export function SharesList({ shares, name }: Props) {
  const dates = useDates();
  return (
    <ul className="mt-1">
      {shares.map((share) => (
        <li key={share.id} className="flex gap-4 border-t border-line py-1.5">
          <span className="grow">
            {name(share)} <span className="text-[12px] text-ink-faint">{share.place.join(" / ")}</span>
            <span className="block text-[12.5px] text-ink-soft">{share.sentence}</span>
          </span>
          <span className="w-44 shrink-0 text-right">
            <span className="block">
              {share.organisations.length === 0 ? "open to anyone" : listWords(share.organisations)}
            </span>
            <span className="block text-[12px] text-ink-faint">
              {share.lastUsed === null ? "never used, as far as we know" : `last used ${dates.day(share.lastUsed)}`}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}
