"use client";

import { Popover } from "radix-ui";
import { type FormEvent, useState } from "react";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import { Button } from "../parts/Button";
import { MomentField } from "../parts/MomentField";
import { useMoment } from "../parts/useMoment";
import { useDates } from "../parts/useDates";
import { HistoryChart } from "./HistoryChart";
import { useStandpoint } from "./viewer";

const JUMPS: [string, number][] = [
  ["Yesterday", 1],
  ["A week ago", 7],
  ["A month ago", 30],
  ["A year ago", 365],
];

/** Now, or any past instant: puts the whole console there. */
export function TimeControl({ present, onPast }: { present: Seconds; onPast: (at: string | null) => void }) {
  const dates = useDates();
  const { now, past } = useStandpoint();
  const [isOpen, setIsOpen] = useState(false);
  const moment = useMoment("a week ago", { now: present, edge: "end", toward: "past", max: present });
  const go = (at: string | null) => {
    onPast(at);
    setIsOpen(false);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (moment.at !== null) go(rfc3339(moment.at));
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
      <Popover.Trigger className="border-l border-band-line px-3 leading-10 underline decoration-dotted underline-offset-4">
        {past === null ? "Now" : "Then"}, {dates.zoned(now)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Another time"
          align="end"
          className="z-20 w-[440px] border border-line-strong bg-raised p-4 shadow-lg"
        >
          <HistoryChart onDay={go} />
          <form onSubmit={submit}>
            <MomentField
              label="See the estate as it was on"
              moment={moment}
              hint="Everything is shown as it was then, and nothing can be changed."
            />
            <div className="mb-3 flex flex-wrap gap-2">
              {JUMPS.map(([words, days]) => (
                <Button key={days} onClick={() => go(rfc3339(present - days * DAY))}>
                  {words}
                </Button>
              ))}
            </div>
            <div className="flex gap-2">
              <Button type="submit" look="act">
                Go there
              </Button>
              {past !== null && <Button onClick={() => go(null)}>Back to now</Button>}
            </div>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
