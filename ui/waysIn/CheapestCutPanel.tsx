"use client";

import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { waysInOperations } from "@/contract/waysIn";
import type { CheapestCut, CutSet } from "@/core/preview/cheapestCut";
import { subjectOf } from "@/core/changes/change";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords, itemWords } from "../parts/words";
import { cutWords } from "./cutWords";
import { useCuts } from "./useCuts";

interface Props {
  item: string;
  who: { person: string } | { organisation: string };
  below: boolean;
  onBelow: (below: boolean) => void;
}

const MOST_SHOWN = 12;

/** The sets of changes that close every way with the least loss besides, and what that loss is. */
export function CheapestCutPanel({ item, who, below, onBelow }: Props) {
  const { past } = useStandpoint();
  const { staged } = useCuts();
  const { data, error } = useQuery({
    // What is staged changes nothing yet; once it is applied the tray is empty again, and the answer another.
    queryKey: [...keyOf(waysInOperations.cheapestCut), item, who, below, past, staged.size === 0],
    queryFn: ({ signal }) =>
      ask(waysInOperations.cheapestCut, { query: { item, ...who, below: String(below) }, past, signal }),
  });
  return (
    <section
      aria-label="Least disruptive cut"
      className="mb-5 max-w-5xl border-l-[3px] border-verdigris bg-surface px-4 py-3"
    >
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="text-[16px] font-semibold">Least disruptive cut</h2>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={below} onChange={(event) => onBelow(event.target.checked)} />
          and everything below the item
        </label>
      </div>
      {error ? (
        <Notice tone="wrong">{error.message}</Notice>
      ) : !data ? (
        <p className="text-ink-faint">Working it out…</p>
      ) : data.cheapest === null ? (
        <Uncuttable stays={data.stays} />
      ) : data.cheapest.changes.length === 0 ? (
        <p>There is nothing to cut.</p>
      ) : (
        <>
          <Cut set={data.cheapest} isBest>
            {data.isExact
              ? "No other set of changes takes less access from others."
              : "There are too many ways in to try every set of changes: this is the best one found."}
          </Cut>
          <Losses losses={data.losses} />
          {data.next.map((set, i) => (
            <details key={setKey(set)} className="mt-3 border-t border-line-strong pt-2">
              <summary className="font-semibold">
                {i === 0 ? "Next best" : "Third best"}: {countWords(set.changes.length, "change")}, {lossWords(set)}
              </summary>
              <Cut set={set} />
            </details>
          ))}
        </>
      )}
    </section>
  );
}

function Uncuttable({ stays }: { stays: string[] }) {
  return (
    <>
      <p>No changes can close every way in:</p>
      <ul className="list-disc pl-5">
        {stays.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </>
  );
}

const setKey = ({ changes }: CutSet) => changes.map(({ change }) => subjectOf(change)).join(" ");

/** What is lost besides, as two figures: the first is the one that weighs more. */
function lossWords({ changes, loss: { insiders, outsiders } }: CutSet): string {
  const verb = changes.length === 1 ? "takes" : "take";
  const accesses = (count: number) => (count === 0 ? "nothing" : countWords(count, "access", "accesses"));
  if (insiders + outsiders === 0) return `${verb} nothing else`;
  return `${verb} ${accesses(insiders)} from insiders and ${accesses(outsiders)} from outsiders`;
}

function Cut({ set, isBest, children }: { set: CutSet; isBest?: boolean; children?: ReactNode }) {
  const { staged, stageAll } = useCuts();
  const { changes } = set;
  const open = changes.filter(({ change }) => !staged.has(subjectOf(change)));
  return (
    <>
      {isBest && (
        <p>
          {countWords(changes.length, "change")} {changes.length === 1 ? "closes" : "close"} every way in, and
          {changes.length === 1 ? "" : " together"} <b className="font-semibold">{lossWords(set)}</b>. {children} One
          access is one item that one person reaches.
        </p>
      )}
      <ul className="my-2">
        {changes.map(({ change, about }) => (
          <li key={subjectOf(change)} className="flex gap-4 border-t border-line py-1">
            <span className="grow">{cutWords(change, about)}</span>
            {staged.has(subjectOf(change)) && <span className="whitespace-nowrap text-ink-faint">In the tray</span>}
          </li>
        ))}
      </ul>
      {stageAll && open.length > 0 && (
        <Button look={isBest ? "act" : undefined} onClick={() => stageAll(open.map(({ change }) => change))}>
          {open.length === 1 ? "Add this change to the docket" : `Add these ${open.length} changes to the docket`}
          {!isBest && " instead"}
        </Button>
      )}
    </>
  );
}

function Losses({ losses }: Pick<CheapestCut, "losses">) {
  if (losses.length === 0) return null;
  const more = losses.length - MOST_SHOWN;
  return (
    <>
      <h3 className="mt-2 font-semibold">Who else loses access</h3>
      <ul>
        {losses.slice(0, MOST_SHOWN).map(({ who, address, loses }) => (
          <li key={who + address} className="flex gap-3 border-t border-line py-1">
            <span className="w-[340px] shrink-0">
              {who} {address && <span className="block font-mono text-[12px] text-ink-faint">{address}</span>}
            </span>
            <span className="text-ink-soft">{itemWords(loses)}</span>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="text-ink-faint">and {countWords(more, "person", "people")} more</p>}
    </>
  );
}
