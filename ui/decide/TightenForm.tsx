"use client";

import { type FormEvent, useId, useState } from "react";
import type { DecidedLine } from "@/contract/decisions";
import type { Decision } from "@/core/rounds/decision";
import { Button } from "../parts/Button";

interface Props {
  lines: readonly DecidedLine[];
  isPending: boolean;
  onTighten: (decision: Decision) => void;
}

/** The ways to tighten some shares that the stores of all of them allow. */
export function TightenForm({ lines, isPending, onTighten }: Props) {
  const name = useId();
  const [way, setWay] = useState<string | null>(null);
  const ways = lines[0].tightenings.filter(({ key }) =>
    lines.every(({ tightenings }) => tightenings.some((one) => one.key === key)),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (way !== null) onTighten({ decision: "tighten", way });
  };
  if (ways.length === 0) return <p className="mt-2">No one change suits all of these. Decide them one by one.</p>;
  return (
    <form onSubmit={submit} className="mt-2 max-w-md border border-line-strong bg-surface p-3">
      <fieldset>
        <legend className="mb-1 font-semibold">How should it be tightened?</legend>
        {ways.map(({ key, words }) => (
          <label key={key} className="flex items-baseline gap-2 py-0.5">
            <input
              type="radio"
              name={name}
              value={key}
              required
              checked={way === key}
              onChange={() => setWay(key)}
              className="accent-verdigris"
            />
            <span>
              {key === "suggested" && lines.length > 1 ? "The suggestion for each" : words}
              {key === "suggested" && lines.length === 1 && (
                <span className="text-ink-faint"> (fixes every finding)</span>
              )}
            </span>
          </label>
        ))}
      </fieldset>
      <p className="my-2 text-ink-soft">Everyone who has access keeps it.</p>
      <Button type="submit" look="act" disabled={isPending || way === null}>
        Tighten
      </Button>
    </form>
  );
}
