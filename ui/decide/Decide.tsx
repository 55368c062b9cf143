"use client";

import { useState } from "react";
import type { DecidedAnswer, DecidedLine } from "@/contract/decisions";
import type { Decision } from "@/core/rounds/decision";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { KeepForm } from "./KeepForm";
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

/** Of what could not be decided: why, line by line where there are several. */
export function NotDecided({ answer: { not }, lines }: { answer: DecidedAnswer; lines: readonly DecidedLine[] }) {
  if (not.length === 0) return null;
  const nameOf = (id: string) => lines.find(({ shareId }) => shareId === id)?.itemName ?? "A share";
  const [{ why }] = not;
  return (
    <Notice tone="wrong">
      {lines.length === 1 ? (
        why
      ) : (
        <>
          {countWords(not.length, "share was", "shares were")} left as before:
          <ul>
            {not.slice(0, 20).map(({ shareId, why }) => (
              <li key={shareId}>
                {nameOf(shareId)}: {why}
              </li>
            ))}
          </ul>
        </>
      )}
    </Notice>
  );
}
