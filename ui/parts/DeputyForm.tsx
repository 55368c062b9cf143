"use client";

import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { Button } from "./Button";
import { Field } from "./Field";
import { MomentField } from "./MomentField";
import { Notice } from "./Notice";
import { useMoment } from "./useMoment";

/** Who decides in somebody's place, from one instant until before another. */
interface Deputy {
  person: string;
  deputy: string;
  from: string;
  until: string;
}

interface Props {
  now: Seconds;
  /** Whether it is said for whom; else it is for oneself. */
  forWhom?: boolean;
  save: (deputy: Deputy) => Promise<unknown>;
  onDone: () => void;
}

/** Names a deputy for some days. */
export function DeputyForm({ now, forWhom, save, onDone }: Props) {
  const [person, setPerson] = useState("");
  const [deputy, setDeputy] = useState("");
  const from = useMoment("today", { now, edge: "start" });
  const until = useMoment("in 14 days", { now, edge: "end", min: now });
  const saving = useMutation({ mutationFn: save, onSuccess: onDone });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (from.at === null || until.at === null) return;
    saving.mutate({ person, deputy, from: rfc3339(from.at), until: rfc3339(until.at) });
  };
  return (
    <form onSubmit={submit} className="mt-2 max-w-md border border-line-strong bg-surface p-3">
      {forWhom && (
        <Field
          label="In place of"
          type="email"
          required
          value={person}
          onChange={({ target }) => setPerson(target.value)}
        />
      )}
      <Field
        label="Address of the deputy"
        type="email"
        required
        value={deputy}
        onChange={({ target }) => setDeputy(target.value)}
      />
      <MomentField label="From" moment={from} />
      <MomentField label="Until" moment={until} />
      <p className="flex gap-2">
        <Button type="submit" look="act" disabled={saving.isPending}>
          Save
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
      {saving.error && <Notice tone="wrong">{saving.error.message}</Notice>}
    </form>
  );
}
