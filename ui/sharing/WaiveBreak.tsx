"use client";

import { useEffect, useId, useState } from "react";
import type { RuleId } from "@/core/rules/list";
import type { GivenWaiver } from "@/core/sharing/request";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { Button } from "../parts/Button";
import { MomentField } from "../parts/MomentField";
import { useMoment } from "../parts/useMoment";

interface Props {
  rule: RuleId;
  title: string;
  now: Seconds;
  /** Null while there is no reason, or no day until which it holds. */
  onWaive: (waiver: GivenWaiver | null) => void;
}

/** Leave to break one rule, given in the same step: a reason, and until when. */
export function WaiveBreak({ rule, title, now, onWaive }: Props) {
  const [isOpen, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const until = useMoment("in 30 days", { now, edge: "end", min: now });
  const id = useId();
  const { at } = until;
  const isGiven = isOpen && reason.trim().length >= 3 && at !== null;
  useEffect(() => {
    onWaive(isGiven ? { rule, reason: reason.trim(), until: rfc3339(at) } : null);
    // Whoever takes it keeps what was given last.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isGiven, reason, at]);
  if (!isOpen)
    return (
      <span className="block">
        <Button onClick={() => setOpen(true)} aria-label={`Waive it for this share: ${title}`}>
          Waive it for this share…
        </Button>
      </span>
    );
  return (
    <div className="mt-1 flex flex-wrap items-start gap-x-4 border-l-2 border-line-strong pl-3">
      <div className="min-w-56 grow">
        <label htmlFor={id} className="mb-1 block font-semibold">
          Reason
        </label>
        <input
          id={id}
          value={reason}
          onChange={({ target }) => setReason(target.value)}
          className="h-9 w-full rounded-[3px] border border-control bg-raised px-2.5"
        />
      </div>
      <div className="w-52">
        <MomentField label="Until" moment={until} />
      </div>
      <Button className="mt-6" onClick={() => setOpen(false)}>
        Don’t waive it
      </Button>
    </div>
  );
}
