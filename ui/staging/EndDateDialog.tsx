"use client";

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { registerOperations } from "@/contract/register";
import type { StoreNotice } from "@/core/changes/notice";
import { HOUR, rfc3339, type Seconds } from "@/core/time/instant";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { MomentField } from "../parts/MomentField";
import { Sheet } from "../parts/Sheet";
import { useMoment } from "../parts/useMoment";
import { countWords } from "../parts/words";

interface Props {
  ids: string[];
  now: Seconds;
  onClose: () => void;
  /** The instant of the end, as RFC 3339 has it; and whether it may come later than the end that there is. */
  onChoose: (expiresAt: string, later: boolean) => void;
}

const SPANS = [7, 14, 30, 90];

/** Asks when shares shall end. */
export function EndDateDialog({ ids, now, onClose, onChoose }: Props) {
  const [later, setLater] = useState(false);
  const count = ids.length;
  const { data } = useQuery(asked(registerOperations.notices, { body: { ids } }));
  const bound = (data?.notices ?? []).filter(({ shares }) => shares === count);
  const others = (data?.notices ?? []).filter(({ shares }) => shares < count);
  const end = useMoment("in 30 days", { now, edge: "end", ...earliest(now, bound[0]) });
  return (
    <Sheet
      isOpen
      title={`End date for ${countWords(count, "share")}`}
      description="Nothing happens yet: this goes into the tray. Where a store can’t keep an end date, Tight Latch revokes the share on that day."
      act="Add the end date to the docket"
      onClose={onClose}
      onAct={() => end.at !== null && onChoose(rfc3339(end.at), later)}
    >
      <div className="w-72">
        <MomentField label="They end on" moment={end} hint={others.map(noticeWords).join(" ")} />
      </div>
      <div className="mb-3 flex gap-2">
        {SPANS.map((span) => (
          <Button
            key={span}
            onClick={() => end.setText(`in ${span} days`)}
            aria-pressed={end.text === `in ${span} days`}
          >
            In {span} days
          </Button>
        ))}
      </div>
      {count === 1 ? (
        <label className="mb-3 flex h-9 items-center gap-2">
          <input type="checkbox" checked={later} onChange={(event) => setLater(event.target.checked)} />
          Use this date even for shares that end sooner or have ended
        </label>
      ) : (
        <p className="mb-3 text-ink-soft">Shares that end sooner, or have ended, stay as they are.</p>
      )}
    </Sheet>
  );
}

/** Nothing ends in the past, and where a store keeps the end it wants to know before. */
function earliest(now: Seconds, notice: StoreNotice | undefined) {
  if (!notice) return { min: now };
  const whyMin = `${notice.store} needs at least ${countWords(notice.hours, "hour")}’ notice.`;
  return { min: now + notice.hours * HOUR, whyMin };
}

const noticeWords = ({ store, hours, shares }: StoreNotice) =>
  `${countWords(shares, "share")} in ${store} can’t end within ${countWords(hours, "hour")}.`;
