"use client";

import { useQuery } from "@tanstack/react-query";
import type { CheapestCut } from "@/core/dockets/cheapestCut";
import { subjectOf } from "@/core/dockets/change";
import { asOf, useStandpoint } from "../frame/viewer";
import { api } from "../parts/api";
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

/** The set of changes that closes every way with the least loss besides, and what that loss is. */
export function CheapestCutPanel({ item, who, below, onBelow }: Props) {
  const { past } = useStandpoint();
  const { staged } = useCuts();
  const asked = new URLSearchParams({ item, ...who, below: String(below) });
  const { data, error } = useQuery({
    // What is staged changes nothing yet; once it is applied the tray is empty again, and the answer another.
    queryKey: ["cut", asked.toString(), past, staged.size === 0],
    queryFn: ({ signal }) => api<CheapestCut>(asOf(`/api/trace/cut?${asked}`, past), { signal }),
  });
  return (
    <section aria-label="Cheapest cut" className="mb-5 max-w-5xl border-l-[3px] border-verdigris bg-surface px-4 py-3">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="text-[16px] font-semibold">Cheapest cut</h2>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={below} onChange={(event) => onBelow(event.target.checked)} />
          and everything below the item
        </label>
      </div>
      {error ? (
        <Notice tone="wrong">{error.message}</Notice>
      ) : !data ? (
        <p className="text-ink-faint">Working it out…</p>
      ) : data.changes === null ? (
        <Uncuttable stays={data.stays} />
      ) : data.changes.length === 0 ? (
        <p>There is nothing to cut.</p>
      ) : (
        <Cut cut={data} />
      )}
    </section>
  );
}

function Uncuttable({ stays }: { stays: string[] }) {
  return (
    <>
      <p>No change can close every way:</p>
      <ul className="list-disc pl-5">
        {stays.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </>
  );
}

function Cut({ cut }: { cut: CheapestCut }) {
  const { staged, stageAll } = useCuts();
  const changes = cut.changes!;
  const open = changes.filter(({ change }) => !staged.has(subjectOf(change)));
  return (
    <>
      <p>
        {countWords(changes.length, "change")} {changes.length === 1 ? "closes" : "close"} every way in, with the least
        loss besides. A cost is what the change would take by itself: each item that a person no longer reaches is one.
      </p>
      <ul className="my-2">
        {changes.map(({ change, about, loss }) => (
          <li key={subjectOf(change)} className="flex gap-4 border-t border-line py-1">
            <span className="grow">{cutWords(change, about)}</span>
            <span className="whitespace-nowrap text-ink-faint">
              {staged.has(subjectOf(change))
                ? "In the tray"
                : loss === 0
                  ? "costs nothing else"
                  : `costs ${loss.toLocaleString("en-GB")}`}
            </span>
          </li>
        ))}
      </ul>
      <Losses cut={cut} />
      {stageAll && open.length > 0 && (
        <Button look="act" className="mt-2" onClick={() => stageAll(open.map(({ change }) => change))}>
          Stage {open.length === 1 ? "this change" : `these ${open.length} changes`}
        </Button>
      )}
    </>
  );
}

function Losses({ cut }: { cut: CheapestCut }) {
  if (cut.losses.length === 0) return <p className="text-verdigris">Nothing else is lost.</p>;
  const more = cut.losses.length - MOST_SHOWN;
  return (
    <>
      <h3 className="font-semibold">What else is lost, {cut.lost.toLocaleString("en-GB")} in all</h3>
      <ul>
        {cut.losses.slice(0, MOST_SHOWN).map(({ who, address, loses }) => (
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
