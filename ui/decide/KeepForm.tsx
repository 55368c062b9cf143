"use client";

import type { FormEvent } from "react";
import { useState } from "react";
import type { DecidedLine } from "@/contract/decisions";
import type { Decision } from "@/core/rounds/decision";
import { DAY, rfc3339 } from "@/core/time/instant";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { MomentField } from "../parts/MomentField";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";
import { useDeciding } from "./useDecisions";

interface Props {
  lines: readonly DecidedLine[];
  limitDays: number;
  isPending: boolean;
  onKeep: (decision: Decision) => void;
}

/** Until when some shares may stay: as suggested, or for some months. Keeping what should end takes a reason. */
export function KeepForm({ lines, limitDays, isPending, onKeep }: Props) {
  const dates = useDates();
  const { now } = useDeciding();
  const [reason, setReason] = useState("");
  const latest = now + limitDays * DAY;
  const suggested = Math.min(latest, ...lines.map(({ suggestedUntil }) => suggestedUntil ?? latest));
  const until = useMoment(dates.day(suggested), { now, edge: "end", min: now, max: latest + DAY - 1 });
  const needsReason = lines.some(({ suggest }) => suggest === "end");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (until.at !== null) onKeep({ decision: "keep", until: rfc3339(until.at), reason });
  };
  return (
    <form onSubmit={submit} className="mt-2 max-w-md border border-line-strong bg-surface p-3">
      <MomentField label="Keep until" moment={until} hint="It ends on that day, unless it ends sooner anyway." />
      <Field
        label={needsReason ? "Reason" : "Reason (optional)"}
        required={needsReason}
        minLength={needsReason ? 3 : undefined}
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" look="act" disabled={isPending}>
        Keep
      </Button>
    </form>
  );
}
