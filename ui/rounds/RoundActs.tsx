"use client";

import { type FormEvent, type ReactNode, useState } from "react";
import { type RoundView, roundsOperations } from "@/contract/rounds";
import { rfc3339 } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";
import { countWords } from "../parts/words";
import { useRoundAct } from "./useRound";
import { undecidedWords } from "./words";

type Form = "extend" | "close" | "stop";

/** What can be done with a round while it isn't over. */
export function RoundActs({ round }: { round: RoundView }) {
  const params = { id: String(round.id) };
  const [form, setForm] = useState<Form | null>(null);
  const done = () => setForm(null);
  const remind = useRoundAct(() => ask(roundsOperations.remindRound, { params, body: { people: null } }));
  const isOpen = round.state === "open";
  if (!isOpen && round.state !== "planned" && round.state !== "opening") return null;
  const turn = (which: Form) => () => setForm(form === which ? null : which);
  return (
    <div className="mt-3">
      <div className="flex flex-wrap gap-2">
        {isOpen && (
          <Button disabled={round.late === 0 || remind.isPending} onClick={() => remind.mutate(undefined)}>
            Remind {countWords(round.late, "person", "people")}
          </Button>
        )}
        {round.state !== "opening" && (
          <Button aria-expanded={form === "extend"} onClick={turn("extend")}>
            Extend…
          </Button>
        )}
        {isOpen && (
          <Button aria-expanded={form === "close"} onClick={turn("close")}>
            Close early…
          </Button>
        )}
        <Button className="text-oxide" aria-expanded={form === "stop"} onClick={turn("stop")}>
          Stop…
        </Button>
      </div>
      {remind.data && (
        <Notice>
          {countWords(remind.data.people, "person gets", "people get")} a mail, or join the next one if they had one
          today.
        </Notice>
      )}
      {remind.error && <Notice tone="wrong">{remind.error.message}</Notice>}
      {form === "extend" && <Extend round={round} onDone={done} />}
      {form === "close" && <Close round={round} onDone={done} />}
      {form === "stop" && <Stop round={round} onDone={done} />}
    </div>
  );
}

interface FormProps {
  round: RoundView;
  onDone: () => void;
}

function Extend({ round, onDone }: FormProps) {
  const { now } = useStandpoint();
  const dates = useDates();
  const until = useMoment(dates.day(round.closes + 7 * 86_400), { now, edge: "end", min: round.closes + 1 });
  const extend = useRoundAct(() =>
    ask(roundsOperations.extendRound, { params: { id: String(round.id) }, body: { closes: rfc3339(until.at!) } }),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (until.at !== null) extend.mutate(undefined, { onSuccess: onDone });
  };
  return (
    <form onSubmit={submit} className="mt-2 max-w-md border border-line-strong bg-surface p-3">
      <MomentField label="Closes" moment={until} hint="Choose a later time; to end it sooner, close it early." />
      <Button type="submit" look="act" disabled={extend.isPending}>
        Extend
      </Button>
      {extend.error && <Notice tone="wrong">{extend.error.message}</Notice>}
    </form>
  );
}

function Close({ round, onDone }: FormProps) {
  const open = round.counts.open ?? 0;
  const close = useRoundAct(() => ask(roundsOperations.closeRound, { params: { id: String(round.id) } }));
  return (
    <Question error={close.error}>
      <p className="font-semibold">Close this round now?</p>
      <p>
        {open > 0
          ? `${countWords(open, "share")} undecided: each ${undecidedWords(round.asked.undecided, round.asked.undecidedDays)}. `
          : "Everything has been decided. "}
        All decisions not yet carried out are carried out as one docket. You can’t reopen the round.
      </p>
      <Button look="end" disabled={close.isPending} onClick={() => close.mutate(undefined, { onSuccess: onDone })}>
        Close the round
      </Button>
      <Button onClick={onDone}>Cancel</Button>
    </Question>
  );
}

function Stop({ round, onDone }: FormProps) {
  const stop = useRoundAct(() => ask(roundsOperations.stopRound, { params: { id: String(round.id) } }));
  return (
    <Question error={stop.error}>
      <p className="font-semibold">Stop this round?</p>
      <p>
        Nothing more is carried out, whatever people have decided, and the record says so. Changes already made stay.{" "}
        {round.asked.repeat && round.state === "planned" && "Its repeats are cancelled too. "}
        You can’t restart it.
      </p>
      <Button look="end" disabled={stop.isPending} onClick={() => stop.mutate(undefined, { onSuccess: onDone })}>
        Stop the round
      </Button>
      <Button onClick={onDone}>Cancel</Button>
    </Question>
  );
}

function Question({ error, children }: { error: Error | null; children: ReactNode }) {
  return (
    <div role="group" className="mt-2 max-w-lg border border-oxide bg-surface p-3 [&_button]:mr-2 [&_p]:mb-2">
      {children}
      {error && <Notice tone="wrong">{error.message}</Notice>}
    </div>
  );
}
