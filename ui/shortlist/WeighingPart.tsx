"use client";

import { useState } from "react";
import { STANDARD_WEIGHING, type Weighing, weighingSchema } from "@/core/advice/weighing";
import type { Label } from "@/core/estate/records";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import type { useWeighing } from "./useShortlist";

interface Props {
  weighing: Weighing;
  set: ReturnType<typeof useWeighing>["set"];
}

/** What counts, and how much, as two sentences whose numbers can be turned; each that isn't the standard says so. */
export function WeighingPart({ weighing, set }: Props) {
  const { mayChange } = useStandpoint().viewer;
  const [draft, setDraft] = useState(weighing);
  const isTurned = JSON.stringify(draft) !== JSON.stringify(weighing);
  const isStandard = JSON.stringify(draft) === JSON.stringify(STANDARD_WEIGHING);
  const problem = weighingSchema.safeParse(draft).error?.issues[0].message ?? set.error?.message;
  const slot = (label: string, of: (weighing: Weighing) => number, turn: (to: number) => Weighing) => (
    <NumberSlot
      {...{ label, mayChange }}
      value={of(draft)}
      standard={of(STANDARD_WEIGHING)}
      onTurn={(to) => setDraft(turn(to))}
    />
  );
  const weight = (label: Label) =>
    slot(
      `What a ${label} file weighs`,
      ({ weights }) => weights[label],
      (to) => ({ ...draft, weights: { ...draft.weights, [label]: to } }),
    );
  const price = (name: keyof Weighing["prices"], label: string) =>
    slot(
      label,
      ({ prices }) => prices[name],
      (to) => ({ ...draft, prices: { ...draft.prices, [name]: to } }),
    );
  const days = slot(
    "Days that count as recent use",
    ({ usedDays }) => usedDays,
    (usedDays) => ({ ...draft, usedDays }),
  );
  return (
    <section aria-labelledby="weighing" className="mt-5 text-ink-soft">
      <h2 id="weighing" className="mb-1 font-semibold text-ink">
        Weights and prices
      </h2>
      <p className="leading-relaxed">
        A restricted file weighs {weight("restricted")}, a confidential one {weight("confidential")}, an internal one{" "}
        {weight("internal")}, a public one {weight("public")}: once while people outside reach it by name, twice while
        private mailboxes or people with the address and a password do, four times while whoever has the address does.
      </p>
      <p className="leading-relaxed">
        Ending a share costs {price("end", "Price of ending a share")}, {price("endUsed", "Extra if it was used")} more
        if it was used in the last {days} days, and {price("endRunning", "Extra if its project is running")} more if its
        project is running. A password costs {price("password", "Price of a password")}, and{" "}
        {price("passwordUsed", "Extra for a password if it was used")} more if it was used.
      </p>
      {problem && <Notice tone="wrong">{problem}</Notice>}
      {mayChange && (isTurned || !isStandard) && (
        <p className="mt-2 flex gap-2">
          {isTurned && (
            <>
              <Button look="act" disabled={problem !== undefined || set.isPending} onClick={() => set.mutate(draft)}>
                Save for everybody
              </Button>
              <Button onClick={() => setDraft(weighing)}>Discard</Button>
            </>
          )}
          {!isStandard && <Button onClick={() => setDraft(STANDARD_WEIGHING)}>Reset to defaults</Button>}
        </p>
      )}
    </section>
  );
}

interface SlotProps {
  label: string;
  value: number;
  standard: number;
  mayChange: boolean;
  onTurn: (to: number) => void;
}

function NumberSlot({ label, value, standard, mayChange, onTurn }: SlotProps) {
  const words = value === standard ? null : <span className="text-[12px]"> (standard {standard})</span>;
  return (
    <span className="whitespace-nowrap">
      {mayChange ? (
        <input
          type="number"
          aria-label={label}
          min={0}
          value={Number.isNaN(value) ? "" : value}
          onChange={(event) => onTurn(event.target.valueAsNumber)}
          className="h-6 w-[50px] border-b-2 border-verdigris bg-transparent text-center font-semibold text-verdigris"
        />
      ) : (
        <b className="font-semibold">{value}</b>
      )}
      {words}
    </span>
  );
}
