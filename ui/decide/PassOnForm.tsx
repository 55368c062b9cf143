"use client";

import { type FormEvent, useState } from "react";
import type { DecidedLine } from "@/contract/decisions";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { NotDecided } from "./NotDecided";
import { usePassOn } from "./useDecisions";

/** Gives some shares to a colleague to decide, who is asked by mail. */
export function PassOnForm({ lines }: { lines: DecidedLine[] }) {
  const passOn = usePassOn();
  const [to, setTo] = useState("");
  const [reason, setReason] = useState("");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    passOn.mutate({ lines, to, reason });
  };
  return (
    <form onSubmit={submit} className="mt-2 max-w-md border border-line-strong bg-surface p-3">
      <Field
        label="Address of the colleague who should decide"
        type="email"
        required
        value={to}
        onChange={(event) => setTo(event.target.value)}
        hint={`They are asked by mail. It can be passed on ${countWords(Math.min(...lines.map(({ passes }) => passes)), "more time")}.`}
      />
      <Field
        label="Reason"
        required
        minLength={3}
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" look="act" disabled={passOn.isPending}>
        Pass on
      </Button>
      {passOn.data && <NotDecided answer={passOn.data} lines={lines} />}
      {passOn.error && <Notice tone="wrong">{passOn.error.message}</Notice>}
    </form>
  );
}
