"use client";

import { useState } from "react";
import type { DecidedLine } from "@/contract/decisions";
import type { Decision } from "@/core/rounds/decision";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { KeepForm } from "./KeepForm";
import { NotDecided } from "./NotDecided";
import { PassOnForm } from "./PassOnForm";
import { TightenForm } from "./TightenForm";
import { useDecide } from "./useDecisions";

interface Props {
  lines: DecidedLine[];
  limitDays: number;
  onDecided?: () => void;
}

type Form = "keep" | "tighten" | "pass-on";

/** What can be decided about some lines: saved at each press, and to be changed until it is carried out. */
export function Decide({ lines, limitDays, onDecided }: Props) {
  const [form, setForm] = useState<Form | null>(null);
  const decide = useDecide();
  const turn = (which: Form) => () => setForm(form === which ? null : which);
  const take = (decision: Decision) =>
    decide.mutate({ lines, decision }, { onSuccess: ({ decided }) => decided > 0 && onDecided?.() });
  const canTighten = lines.some(({ tightenings }) => tightenings.length > 0);
  const canPassOn = lines.some(({ passes }) => passes > 0);
  return (
    <>
      <div className="flex flex-wrap gap-2">
        <Button disabled={decide.isPending} aria-expanded={form === "keep"} onClick={turn("keep")}>
          Keep until…
        </Button>
        {canTighten && (
          <Button disabled={decide.isPending} aria-expanded={form === "tighten"} onClick={turn("tighten")}>
            Tighten…
          </Button>
        )}
        <Button className="text-oxide" disabled={decide.isPending} onClick={() => take({ decision: "end" })}>
          End
        </Button>
        {canPassOn && (
          <Button disabled={decide.isPending} aria-expanded={form === "pass-on"} onClick={turn("pass-on")}>
            Pass on…
          </Button>
        )}
      </div>
      {form === "keep" && <KeepForm lines={lines} limitDays={limitDays} isPending={decide.isPending} onKeep={take} />}
      {form === "tighten" && <TightenForm lines={lines} isPending={decide.isPending} onTighten={take} />}
      {form === "pass-on" && <PassOnForm lines={lines} />}
      {decide.data && <NotDecided answer={decide.data} lines={lines} />}
      {decide.error && <Notice tone="wrong">{decide.error.message}</Notice>}
    </>
  );
}
