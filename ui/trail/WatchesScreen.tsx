"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useSearchParams } from "next/navigation";
import { useState } from "react";
import { alertsOperations } from "@/contract/alerts";
import type { WatchLine } from "@/core/trail/savedWatch";
import { parseSearch } from "@/core/trail/search";
import { useStandpoint } from "../frame/viewer";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { MarkAllBox, MarkBox } from "../parts/MarkBox";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useDates } from "../parts/useDates";
import { type Marking, useBoxKeys, useMarking } from "../parts/useMarking";
import { countWords } from "../parts/words";
import { firstDraft, WatchForm } from "./WatchForm";
import { watchWords } from "./watchWords";

const KEY = keyOf(alertsOperations.watches);

/** The standing watches: what each looks for, who is told, and what it holds back; and one that is made or changed. */
export function WatchesScreen() {
  return useStandpoint().past === null ? <WatchesNow /> : <OfNow />;
}

function WatchesNow() {
  const { viewer } = useStandpoint();
  const parameters = useSearchParams();
  const client = useQueryClient();
  const [edited, setEdited] = useState<WatchLine | null>(null);
  const isNew = parameters.get("new") === "yes" && edited === null && viewer.mayChange;
  const list = useQuery({
    ...asked(alertsOperations.watches),
  });
  const refresh = () => client.invalidateQueries({ queryKey: KEY });
  const done = () => {
    setEdited(null);
    if (isNew) window.history.replaceState(null, "", "/trail/watches");
    void refresh();
  };
  const { zone } = useDates().settings;
  const ship = useMutation({
    mutationFn: () => ask(alertsOperations.addShipped, { body: { zone } }),
    onSuccess: refresh,
  });
  const marking = useMarking(viewer.mayChange ? (list.data?.watches ?? []).map(({ id }) => id) : []);
  const chosen = marking.ids.filter((id) => marking.marked.has(id));
  const onKeyDown = useBoxKeys(marking, "watches");
  const turnAll = useMutation({
    mutationFn: (isOn: boolean) => ask(alertsOperations.turnWatches, { body: { ids: chosen, isOn } }),
    onSuccess: () => {
      marking.clear();
      void refresh();
    },
  });
  const problem = list.error ?? ship.error ?? turnAll.error;
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(0,1fr)_460px]">
      <div className="min-h-0 overflow-y-auto bg-raised px-6 py-5">
        <div className="mb-3 flex items-center gap-4">
          <h1 className="text-[20px] font-semibold">Watches</h1>
          <Link href="/trail" className="text-verdigris underline">
            Trail
          </Link>
          <Link href="/alerts" className="text-verdigris underline">
            Alerts
          </Link>
          <span className="grow" />
          {viewer.mayChange && list.data && (
            <Button onClick={() => ship.mutate()} disabled={ship.isPending}>
              Add the ready-made watches
            </Button>
          )}
        </div>
        {problem && <Notice tone="wrong">{problem.message}</Notice>}
        {list.data?.watches.length === 0 && (
          <Notice>
            No watches yet. Search the trail and press “Make this a watch”, or start with the ready-made ones.
          </Notice>
        )}
        {viewer.mayChange && marking.ids.length > 0 && (
          <div className="flex items-center gap-3 py-2">
            <MarkAllBox marking={marking} />
            <Button disabled={chosen.length === 0 || turnAll.isPending} onClick={() => turnAll.mutate(true)}>
              Switch {chosen.length || "marked"} on
            </Button>
            <Button disabled={chosen.length === 0 || turnAll.isPending} onClick={() => turnAll.mutate(false)}>
              Switch {chosen.length || "marked"} off
            </Button>
          </div>
        )}
        <ul id="watches" onKeyDown={onKeyDown}>
          {list.data?.watches.map((line) => (
            <Line
              marking={marking}
              key={line.id}
              line={line}
              mayChange={viewer.mayChange}
              onEdit={() => setEdited(line)}
              onChanged={refresh}
            />
          ))}
        </ul>
      </div>
      <aside aria-label="One watch" className="min-h-0 overflow-y-auto border-l border-line bg-surface px-5 py-5">
        {edited || isNew ? (
          <WatchForm
            key={edited?.id ?? "new"}
            draft={edited ?? firstDraft(parseSearch(parameters), zone)}
            onDone={done}
            onCancel={done}
          />
        ) : (
          <p className="text-ink-soft">
            {viewer.mayChange
              ? "Press Change on a watch to see its details. To make a new one, start with a search on the trail."
              : "Only administrators can change watches."}
          </p>
        )}
      </aside>
    </div>
  );
}

interface LineProps {
  marking: Marking<string>;
  line: WatchLine;
  mayChange: boolean;
  onEdit: () => void;
  onChanged: () => void;
}

function Line({ marking, line, mayChange, onEdit, onChanged }: LineProps) {
  const { id, name, watch, isOn, open, held, aside } = line;
  const turn = useMutation({
    mutationFn: () => ask(alertsOperations.saveWatch, { body: { id, name, watch, isOn: !isOn } }),
    onSuccess: onChanged,
  });
  const release = useMutation({
    mutationFn: () => ask(alertsOperations.releaseHeld, { params: { id } }),
    onSuccess: onChanged,
  });
  const problem = turn.error ?? release.error;
  return (
    <li className="border-t border-line py-2.5">
      <div className="flex items-baseline gap-3">
        {mayChange && <MarkBox marking={marking} id={id} label={name} />}
        <b className="text-[15px] font-semibold">{name}</b>
        <span className={watch.severity === "low" ? "text-ink-soft" : "text-copper"}>{watch.severity}</span>
        <span className="text-ink-faint">{isOn ? "on" : "off"}</span>
        <span className="grow" />
        {open > 0 && (
          <Link href="/alerts" className="text-verdigris underline">
            {countWords(open, "open alert")}
          </Link>
        )}
        {mayChange && (
          <>
            <Button onClick={() => turn.mutate()} aria-label={`Switch ${name} ${isOn ? "off" : "on"}`}>
              Switch {isOn ? "off" : "on"}
            </Button>
            <Button onClick={onEdit} aria-label={`Change ${name}`}>
              Change
            </Button>
          </>
        )}
      </div>
      <p className="max-w-prose text-ink-soft">{watchWords(watch)}</p>
      {held > 0 && (
        <p className="mt-1">
          {countWords(held, "message")} held for a digest.{" "}
          {mayChange && (
            <button type="button" onClick={() => release.mutate()} className="text-verdigris underline">
              Send the digest now
            </button>
          )}
        </p>
      )}
      {aside > 0 && (
        <p className="mt-1 text-copper">
          {countWords(aside, "message")} given up after a day of retries. Check where messages go, under Estate.
        </p>
      )}
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
    </li>
  );
}
