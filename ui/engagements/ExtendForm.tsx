"use client";

import { useState } from "react";
import type { Seconds } from "@/core/time/instant";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { MomentField } from "../parts/MomentField";
import { useMoment } from "../parts/useMoment";

interface Props {
  now: Seconds;
  /** The latest day that can be chosen, where there is one. */
  latest?: Seconds;
  isPending: boolean;
  onExtend: (at: Seconds, reason: string) => void;
}

/** Asks for another end, and why. */
export function ExtendForm({ now, latest, isPending, onExtend }: Props) {
  const [reason, setReason] = useState("");
  const until = useMoment("in 90 days", { now, edge: "end", min: now, ...(latest !== undefined && { max: latest }) });
  return (
    <form
      className="mt-3 max-w-xl border border-line-strong bg-surface px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (until.at !== null) onExtend(until.at, reason);
      }}
    >
      <MomentField label="It ends on" moment={until} />
      <Field
        label="Reason"
        required
        minLength={3}
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" look="act" disabled={isPending || until.at === null}>
        Save the end date
      </Button>
    </form>
  );
}
