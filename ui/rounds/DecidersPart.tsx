"use client";

import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { type DeciderView, type RoundView, roundsOperations } from "@/contract/rounds";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { StatesBar } from "./StatesBar";
import { useRoundAct } from "./useRound";

/** How far each decider has come, and how carefully they decide. */
export function DecidersPart({ round }: { round: RoundView }) {
  const [from, setFrom] = useState(0);
  const { data, error } = useQuery({
    ...asked(roundsOperations.deciders, { params: { id: String(round.id) }, query: { from } }),
    placeholderData: (before) => before,
    refetchInterval: 15_000,
  });
  return (
    <section aria-labelledby="deciders" className="mt-6">
      <h2 id="deciders" className="text-[16px] font-semibold">
        Who decides
      </h2>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && (
        <table className="w-full">
          <thead className="text-left text-[12px] text-ink-faint">
            <tr>
              {["Person", "Lines", "How they decide", ""].map((title) => (
                <th key={title} className="py-1 pr-4 font-semibold">
                  {title || <span className="sr-only">Actions</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data.deciders.map((decider) => (
              <DeciderRow key={decider.address} round={round} decider={decider} />
            ))}
          </tbody>
        </table>
      )}
      {data && data.total > from + data.deciders.length && (
        <Button onClick={() => setFrom(from + data.deciders.length)}>
          Next of {countWords(data.total, "person", "people")}
        </Button>
      )}{" "}
      {from > 0 && <Button onClick={() => setFrom(0)}>From the start</Button>}
    </section>
  );
}

function DeciderRow({ round, decider }: { round: RoundView; decider: DeciderView }) {
  const { viewer } = useStandpoint();
  const dates = useDates();
  const [isOpen, setOpen] = useState(false);
  const { address, name, department, counts, finished, written } = decider;
  const open = counts.open ?? 0;
  return (
    <>
      <tr className="border-t border-line align-top">
        <td className="py-1.5 pr-4 wrap-anywhere">
          {address === "" ? "Administrators" : name}
          <span className="block text-[12px] text-ink-faint">
            {address === ""
              ? "nobody else can decide these: hand them over, or take them yourself"
              : [address, department].filter(Boolean).join(", ")}
          </span>
        </td>
        <td className="w-[260px] py-1.5 pr-4">
          <StatesBar counts={counts} isSmall />
        </td>
        <td className="py-1.5 pr-4 text-[12.5px]">
          <Quality decider={decider} isOver={round.state === "closed" || round.state === "stopped"} />
          <span className="block text-ink-faint">
            {finished !== null && `Finished on ${dates.day(finished)}. `}
            {written !== null && `Last mail ${dates.day(written)}.`}
          </span>
        </td>
        <td className="py-1.5">
          {viewer.mayChange && round.state === "open" && open > 0 && (
            <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
              Hand over…
            </Button>
          )}
        </td>
      </tr>
      {isOpen && (
        <tr>
          <td colSpan={4}>
            <HandOver round={round} decider={decider} />
          </td>
        </tr>
      )}
    </>
  );
}

function Quality({ decider, isOver }: { decider: DeciderView; isOver: boolean }) {
  const { quality, lines, counts } = decider;
  const { overruled, medianSeconds, isUnlooked } = quality;
  const decided = lines - (counts.open ?? 0) - (counts.gone ?? 0) - (counts.lapsed ?? 0);
  if (decided === 0)
    return <span className="text-ink-faint">{isOver ? "Decided nothing." : "Nothing decided yet."}</span>;
  return (
    <>
      {isUnlooked && <b className="block font-semibold text-oxide">Decided suspiciously fast.</b>}
      {overruled > 0 && `${countWords(overruled, "suggestion")} overruled. `}
      {medianSeconds !== null && `Median ${Math.round(medianSeconds)} s a line.`}
    </>
  );
}

function HandOver({ round, decider }: { round: RoundView; decider: DeciderView }) {
  const [to, setTo] = useState("");
  const [reason, setReason] = useState("");
  const give = useRoundAct(() =>
    ask(roundsOperations.handOverLines, {
      params: { id: String(round.id) },
      body: { from: decider.address, to, reason },
    }),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    give.mutate(undefined);
  };
  return (
    <form onSubmit={submit} className="mb-3 max-w-lg border border-line-strong bg-surface p-3">
      <Field label="Hand over to" type="email" required value={to} onChange={({ target }) => setTo(target.value)} />
      <Field
        label="Why"
        required
        minLength={3}
        maxLength={500}
        value={reason}
        onChange={({ target }) => setReason(target.value)}
      />
      <Button type="submit" look="act" disabled={give.isPending}>
        Hand over undecided shares
      </Button>
      {give.data && (
        <Notice>
          {countWords(give.data.moved, "share")} handed over.{" "}
          {give.data.not.length > 0 && `${give.data.not.length} stay: ${give.data.not[0].why}`}
        </Notice>
      )}
      {give.error && <Notice tone="wrong">{give.error.message}</Notice>}
    </form>
  );
}
