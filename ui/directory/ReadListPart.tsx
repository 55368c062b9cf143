"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ChangeEvent, useState } from "react";
import { directoryOperations, type OutlookTold, type SourceTold } from "@/contract/directory";
import { LIST_COLUMNS, type ListKind } from "@/core/directory/list";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { OutlookPart } from "./OutlookPart";

const KIND_WORDS: Record<ListKind, [title: string, effect: string]> = {
  people: ["Everybody who is here", "Anyone who was on the list before and no longer is has left."],
  leavers: ["Only those who leave", "With their last day; it says nothing about anybody else."],
};

const LOOK_EVERY_MS = 400;

/** How far the list is that is being compared or read, and a way to stop it. */
function StepLine({ onStop }: { onStop: () => void }) {
  const { data } = useQuery({ ...asked(directoryOperations.listNow), refetchInterval: LOOK_EVERY_MS, gcTime: 0 });
  const stop = useMutation({ mutationFn: () => ask(directoryOperations.stopList, { body: {} }) });
  const { words, done } = data?.step ?? { words: "Starting", done: 0 };
  return (
    <p role="status" className="mt-3 flex items-center gap-3">
      {words}
      {done > 0 && `: ${done.toLocaleString("en-GB")}`}
      <Button
        disabled={stop.isPending}
        onClick={() => {
          onStop();
          stop.mutate();
        }}
      >
        Stop
      </Button>
    </p>
  );
}

interface Chosen {
  file: string;
  text: string;
}

/** Reads a list of people, or of leavers, from a file: first it shows what would change. */
export function ReadListPart({ sources }: { sources: readonly SourceTold[] }) {
  const client = useQueryClient();
  const known = sources.filter(({ kind }) => kind === "directory").map(({ name }) => name);
  const [directory, setDirectory] = useState(known[0] ?? "personnel");
  const [kind, setKind] = useState<ListKind>("people");
  const [chosen, setChosen] = useState<Chosen | null>(null);
  /** Whoever stops it themselves is told so, and not that something is wrong. */
  const [isStopped, setStopped] = useState(false);
  const tone = isStopped ? "plain" : "wrong";
  const given = () => ({ directory, kind, ...chosen! });
  const look = useMutation({
    mutationFn: () => ask(directoryOperations.lookAtList, { body: given() }),
    onMutate: () => setStopped(false),
  });
  const read = useMutation({
    mutationFn: ({ digest, brake }: OutlookTold) =>
      ask(directoryOperations.readList, { body: { ...given(), digest, inactive: brake?.inactive ?? null } }),
    onMutate: () => setStopped(false),
    onSuccess: async () => {
      setChosen(null);
      look.reset();
      await client.invalidateQueries();
    },
  });
  const choose = async ({ target }: ChangeEvent<HTMLInputElement>) => {
    const file = target.files?.[0];
    look.reset();
    read.reset();
    // Until the file has been read nothing is shown, least of all the changes of the previous file.
    setChosen(null);
    setChosen(file ? { file: file.name, text: await file.text() } : null);
  };
  return (
    <section aria-labelledby="read-list" className="mt-4 max-w-3xl">
      <h2 id="read-list" className="text-[17px] font-semibold">
        Read a list
      </h2>
      <p className="mb-3 text-ink-soft">
        A CSV file whose first line names its columns: address, and any of{" "}
        {LIST_COLUMNS.filter((column) => column !== "address").join(", ")}. Nothing changes until you have seen what
        would change.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          look.mutate();
        }}
      >
        <div className="flex flex-wrap items-start gap-x-8">
          <div className="w-64">
            <Field
              label="Directory"
              required
              pattern="[a-z0-9][a-z0-9\-]{0,39}"
              list="directories"
              value={directory}
              onChange={(event) => {
                setDirectory(event.target.value);
                look.reset();
              }}
              hint="Use the same name each time."
            />
            <datalist id="directories">
              {known.map((name) => (
                <option key={name} value={name} />
              ))}
            </datalist>
          </div>
          <fieldset className="mb-3">
            <legend className="mb-1 font-semibold">The list contains</legend>
            {(Object.keys(KIND_WORDS) as ListKind[]).map((one) => (
              <label key={one} className="mb-1.5 flex gap-2">
                <input
                  type="radio"
                  name="kind"
                  checked={one === kind}
                  onChange={() => {
                    setKind(one);
                    look.reset();
                  }}
                />
                <span>
                  {KIND_WORDS[one][0]}
                  <span className="block text-[12.5px] text-ink-soft">{KIND_WORDS[one][1]}</span>
                </span>
              </label>
            ))}
          </fieldset>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <label className="flex items-center gap-2">
            <span className="font-semibold">File</span>
            <input
              type="file"
              accept=".csv,.tsv,.txt,text/csv"
              // A browser raises no event when the same file is chosen again, though its content may have changed.
              onClick={({ currentTarget }) => (currentTarget.value = "")}
              onChange={(event) => void choose(event)}
              key={String(read.isSuccess)}
              className="file:mr-3 file:h-[30px] file:rounded-[3px] file:border file:border-solid file:border-control file:bg-raised file:px-3"
            />
          </label>
          <Button type="submit" look={look.data ? "quiet" : "act"} disabled={chosen === null || look.isPending}>
            Preview the changes
          </Button>
        </div>
      </form>
      {(look.isPending || read.isPending) && <StepLine onStop={() => setStopped(true)} />}
      {look.error && <Notice tone={tone}>{look.error.message}</Notice>}
      {look.data && (
        <OutlookPart outlook={look.data} isReading={read.isPending} onRead={() => read.mutate(look.data)} />
      )}
      {read.error && <Notice tone={tone}>{read.error.message}</Notice>}
      <p role="status" className="mt-2 text-ink-soft">
        {read.isSuccess && "The list has been read, and recorded in the ledger."}
      </p>
    </section>
  );
}
