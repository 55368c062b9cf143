"use client";

import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { alertsOperations } from "@/contract/alerts";
import { HOUR } from "@/core/time/instant";
import type { SavedWatch } from "@/core/trail/savedWatch";
import { printSearch, type TrailSearch } from "@/core/trail/search";
import { COUNTED_BY, type Watch } from "@/core/trail/watch";
import { SEVERITIES } from "@/core/rules/severity";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { ZoneField } from "../parts/ZoneField";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { useSignIns } from "./useSignIns";
import { searchWords } from "./watchWords";

type Draft = Pick<SavedWatch, "name" | "watch" | "isOn"> & { id?: string };
type EventWatch = Extract<Watch, { kind: "events" }>;

const SELECT = "h-9 rounded-[3px] border border-control bg-raised px-2";

/** A new watch for what was searched on the trail. */
export function firstDraft(search: TrailSearch, zone: string): Draft {
  const watch: Watch = {
    kind: "events",
    search: { ...search, from: null, to: null },
    many: null,
    severity: "high",
    mail: [],
    webhook: false,
    syslog: false,
    mostADay: 20,
    quiet: null,
    zone,
  };
  return { name: "", watch, isOn: true };
}

/** One watch, to be changed: it can be tried against the past before it is kept. */
export function WatchForm({ draft, onDone, onCancel }: { draft: Draft; onDone: () => void; onCancel: () => void }) {
  const [name, setName] = useState(draft.name);
  const [watch, setWatch] = useState<Watch>(draft.watch);
  const people = useSignIns();
  const isPerson = (address: string) => people.some(({ email }) => email === address);
  const [told, setTold] = useState(draft.watch.mail);
  // What is being typed stays as it is typed; until somebody types, it is whoever is told and doesn't sign in.
  const [typed, setTyped] = useState<string | null>(null);
  const others = typed ?? told.filter((address) => !isPerson(address)).join(", ");
  const set = (part: Partial<Watch>) => setWatch((watch) => ({ ...watch, ...part }) as Watch);
  const whole = (): Watch => {
    const mail = [...told.filter(isPerson), ...others.split(/[\s,;]+/).filter(Boolean)];
    return { ...watch, mail: [...new Set(mail)] };
  };
  const keep = useMutation({
    mutationFn: () =>
      ask(alertsOperations.saveWatch, { body: { id: draft.id, name, watch: whole(), isOn: draft.isOn } }),
    onSuccess: onDone,
  });
  const drop = useMutation({
    mutationFn: () => ask(alertsOperations.dropWatch, { params: { id: draft.id! } }),
    onSuccess: onDone,
  });
  const problem = keep.error ?? drop.error;
  return (
    <form
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <h2 className="mb-3 text-[17px] font-semibold">{draft.id ? "Change a watch" : "A new watch"}</h2>
      <Field label="Name" value={name} required onChange={(event) => setName(event.target.value)} />
      {watch.kind === "events" && <Looked watch={watch} set={set} />}
      {(watch.kind === "not-opened" || watch.kind === "not-answered") && (
        <Field
          label="Days to wait"
          type="number"
          min={1}
          max={watch.kind === "not-opened" ? 365 : 90}
          value={watch.days}
          onChange={(event) => set({ days: event.target.valueAsNumber } as Partial<Watch>)}
        />
      )}
      <label className="mb-3 block font-semibold">
        Severity
        <select
          value={watch.severity}
          onChange={(event) => set({ severity: event.target.value as Watch["severity"] })}
          className={`${SELECT} mt-1 block font-normal`}
        >
          {SEVERITIES.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </label>
      <fieldset className="mb-3">
        <legend className="font-semibold">Mail to</legend>
        {people.map(({ name, email }) => (
          <Check
            key={email}
            words={`${name}, ${email}`}
            isOn={told.includes(email)}
            set={(isOn) => setTold(isOn ? [...told, email] : told.filter((one) => one !== email))}
          />
        ))}
      </fieldset>
      <Field
        label="Other addresses"
        hint="Separated by commas. Alerts always appear on the Desk."
        value={others}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Check words="Send to the webhook" isOn={watch.webhook} set={(webhook) => set({ webhook })} />
      <Check words="Write to the log (syslog)" isOn={watch.syslog} set={(syslog) => set({ syslog })} />
      <div className="mt-3 grid grid-cols-2 gap-x-4">
        <Field
          label="Messages a day"
          hint="To each person; the rest come in one digest."
          type="number"
          min={1}
          max={1000}
          value={watch.mostADay}
          onChange={(event) => set({ mostADay: event.target.valueAsNumber })}
        />
        <ZoneField value={watch.zone} onValue={(zone) => set({ zone })} className="w-full" />
      </div>
      <Check
        words="Quiet hours, with a digest at their end"
        isOn={watch.quiet !== null}
        set={(isOn) => set({ quiet: isOn ? { from: "20:00", to: "07:00" } : null })}
      />
      {watch.quiet && (
        <div className="mt-2 grid grid-cols-2 gap-x-4">
          {(["from", "to"] as const).map((end) => (
            <Field
              key={end}
              label={end === "from" ? "From" : "To"}
              pattern="([01][0-9]|2[0-3]):[0-5][0-9]"
              title="A time such as 20:00"
              required
              value={watch.quiet![end]}
              onChange={(event) => set({ quiet: { ...watch.quiet!, [end]: event.target.value } })}
            />
          ))}
        </div>
      )}
      <Trial watch={whole()} />
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      <div className="mt-4 flex gap-2">
        <Button type="submit" look="act" disabled={keep.isPending}>
          {draft.id ? "Save the changes" : "Save and switch on"}
        </Button>
        <Button onClick={onCancel}>Close</Button>
        <span className="grow" />
        {draft.id && (
          <Button onClick={() => drop.mutate()} disabled={drop.isPending}>
            Delete it
          </Button>
        )}
      </div>
      {draft.id && <p className="mt-2 text-ink-faint">Deleting it can’t be undone. Its alerts stay.</p>}
    </form>
  );
}

function Looked({ watch, set }: { watch: EventWatch; set: (part: Partial<Watch>) => void }) {
  const { many } = watch;
  const change = (part: Partial<NonNullable<EventWatch["many"]>>) => set({ many: { ...many!, ...part } });
  return (
    <div className="mb-3">
      <p>
        <b className="font-semibold">Looks for: </b>
        {searchWords(watch.search)}.{" "}
        <a href={`/trail?${printSearch(watch.search)}`} className="text-verdigris underline">
          See them on the trail
        </a>
      </p>
      <Check
        words="Only if there are many in a short time"
        isOn={many !== null}
        set={(isOn) => set({ many: isOn ? { moreThan: 20, seconds: HOUR, by: "person" } : null })}
      />
      {many && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          more than
          <Count name="How many" value={many.moreThan} onValue={(moreThan) => change({ moreThan })} />
          within
          <Count name="Minutes" value={many.seconds / 60} onValue={(minutes) => change({ seconds: minutes * 60 })} />
          minutes by one
          <select
            aria-label="Counted by"
            value={many.by}
            onChange={(event) => change({ by: event.target.value as (typeof COUNTED_BY)[number] })}
            className={SELECT}
          >
            {COUNTED_BY.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </div>
      )}
    </div>
  );
}

function Count({ name, value, onValue }: { name: string; value: number; onValue: (value: number) => void }) {
  return (
    <input
      aria-label={name}
      type="number"
      min={1}
      value={value}
      onChange={(event) => onValue(event.target.valueAsNumber)}
      className={`${SELECT} w-20 text-right`}
    />
  );
}

function Check({ words, isOn, set }: { words: string; isOn: boolean; set: (isOn: boolean) => void }) {
  return (
    <label className="flex items-center gap-2 py-0.5">
      <input type="checkbox" checked={isOn} onChange={(event) => set(event.target.checked)} />
      {words}
    </label>
  );
}

/** What it would have raised, had it been on. */
function Trial({ watch }: { watch: Watch }) {
  const trial = useMutation({
    mutationFn: () => ask(alertsOperations.testWatch, { body: { watch } }),
  });
  return (
    <div className="mt-3 border-t border-line pt-3">
      <div className="flex items-center gap-3">
        <Button onClick={() => trial.mutate()} disabled={trial.isPending || watch.kind !== "events"}>
          Try it on the last 90 days
        </Button>
        <p role="status">
          {trial.isPending && "Searching the last 90 days."}
          {trial.data &&
            `It would have raised ${countWords(trial.data.alerts ?? 0, "alert")} in the last ${trial.data.days} days.`}
          {watch.kind !== "events" && "A watch for something that didn’t happen can’t be tried on past events."}
        </p>
      </div>
      {trial.error && <Notice tone="wrong">{trial.error.message}</Notice>}
    </div>
  );
}
