"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { type LeaverTold, leaversOperations } from "@/contract/leavers";
import { rfc3339 } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";

interface Props {
  leaver: { address: string; status: string; lastDay: number | null };
  /** As it was said here, where it was. */
  set: LeaverTold["lastDay"];
}

/** The last day of somebody who is still here: when it is, who said so, and how to say another. */
export function LastDayPart({ leaver: { address, status, lastDay }, set }: Props) {
  const { viewer, past, now } = useStandpoint();
  const dates = useDates();
  const [isSetting, setSetting] = useState(false);
  if (status !== "active") return null;
  return (
    <>
      {lastDay !== null && (
        <p>
          {lastDay > now ? "Leaves on " : "Their last day was "}
          <b className="font-semibold">{dates.day(lastDay)}</b>, {dates.distance(lastDay, now)}.{" "}
          <span className="text-ink-soft">
            {set ? `Said by ${set.setBy} on ${dates.day(set.setAt)}: ${set.reason}` : "From a directory."}
          </span>
        </p>
      )}
      {viewer.mayChange && past === null && !isSetting && (
        <p className="on-paper-none mt-1 flex gap-2">
          <Button onClick={() => setSetting(true)}>{lastDay === null ? "Set a last day" : "Change the date"}</Button>
          {set && <Drop address={address} />}
        </p>
      )}
      {isSetting && <SetLastDay address={address} onClose={() => setSetting(false)} />}
    </>
  );
}

function Drop({ address }: { address: string }) {
  const router = useRouter();
  const client = useQueryClient();
  const drop = useMutation({
    mutationFn: () => ask(leaversOperations.dropLastDay, { body: { address } }),
    onSuccess: () => {
      // They are no leaver any more, and have no sheet.
      router.push(`/people/person?address=${encodeURIComponent(address)}`);
      return client.invalidateQueries({ queryKey: keyOf(leaversOperations.leavers), refetchType: "none" });
    },
  });
  return (
    <>
      <Button disabled={drop.isPending} onClick={() => drop.mutate()}>
        They are staying
      </Button>
      {drop.error && <Notice tone="wrong">{drop.error.message}</Notice>}
    </>
  );
}

function SetLastDay({ address, onClose }: { address: string; onClose: () => void }) {
  const { now } = useStandpoint();
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const day = useMoment("", { now, edge: "end" });
  const save = useMutation({
    mutationFn: () =>
      ask(leaversOperations.setLastDay, { body: { address, day: rfc3339(day.at!), reason: reason.trim() } }),
    onSuccess: async () => {
      await client.invalidateQueries();
      onClose();
    },
  });
  return (
    <form
      className="on-paper-none mt-2 max-w-md border border-line bg-surface px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <MomentField label="Last day" moment={day} />
      <Field
        label="How you know"
        required
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <p className="flex gap-2">
        <Button type="submit" look="act" disabled={save.isPending || day.at === null}>
          Save
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </p>
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
    </form>
  );
}
