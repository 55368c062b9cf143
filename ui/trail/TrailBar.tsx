"use client";

import { type ReactNode, useState } from "react";
import { useStandpoint } from "../frame/viewer";
import { SIDES, type Side, type TrailSearch } from "@/core/trail/search";
import { Button } from "../parts/Button";
import { Finder, type Subject } from "../parts/Finder";
import { MomentField } from "../parts/MomentField";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";
import { ZoneField } from "../parts/ZoneField";
import type { TrailView } from "./useTrailSearch";

const FIELD = "h-[30px] rounded-[3px] border border-control bg-raised px-2";
const SIDE_WORDS: Record<Side, string> = { either: "did or received", actor: "did", recipient: "received" };

/** What is looked for: words, a person, and from when to when by which clocks. */
export function TrailBar({ view }: { view: TrailView }) {
  const { search, zone, change, setZone } = view;
  const [words, setWords] = useState(search.words);
  const { now } = useStandpoint();
  const dates = useDates(zone);
  const rules = { now, edge: "start", toward: "past", zone, optional: true } as const;
  const from = useMoment(search.from === null ? "" : dates.moment(search.from), rules);
  const to = useMoment(search.to === null ? "" : dates.moment(search.to), rules);
  return (
    <form
      role="search"
      className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line bg-surface px-3.5 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        change({ words: words.trim(), from: from.at, to: to.at });
      }}
    >
      <input
        aria-label="Words"
        data-query
        value={words}
        onChange={(event) => setWords(event.target.value)}
        placeholder="People, names, places, addresses"
        className={`${FIELD} min-w-48 grow`}
      />
      <MomentField label="From" moment={from} inLine />
      <MomentField label="Before" moment={to} inLine />
      <ZoneField isLabelHidden value={zone} onValue={setZone} className="w-44" />
      <Button type="submit" look="act">
        Search
      </Button>
      <div className="flex basis-full flex-wrap items-center gap-2">
        <Finder
          label="An item, a person or an organisation"
          placeholder="An item, a person, an organisation"
          kinds={["item", "person", "organisation"]}
          value=""
          onPick={(subject) => subject && change(askedBy(subject))}
        />
        <Chosen view={view} />
      </div>
    </form>
  );
}

function askedBy({ kind, id }: Subject): Partial<TrailSearch> {
  if (kind === "item") return { item: id };
  return kind === "person" ? { person: id, side: "either" } : { organisations: [id] };
}

/** Choices that stand nowhere else on the screen, each with a way to drop it. */
function Chosen({ view: { search, change } }: { view: TrailView }) {
  return (
    <>
      {search.person !== null && (
        <Drop words={search.person} onDrop={() => change({ person: null, side: "either" })}>
          <select
            aria-label="As actor or recipient"
            value={search.side}
            onChange={(event) => change({ side: event.target.value as Side })}
            className="bg-transparent"
          >
            {SIDES.map((side) => (
              <option key={side} value={side}>
                {SIDE_WORDS[side]}
              </option>
            ))}
          </select>
        </Drop>
      )}
      {search.item !== null && (
        <Drop words={`Item ${search.item} and all below`} onDrop={() => change({ item: null })} />
      )}
      {search.share !== null && <Drop words={`Share ${search.share}`} onDrop={() => change({ share: null })} />}
    </>
  );
}

function Drop({ words, onDrop, children }: { words: string; onDrop: () => void; children?: ReactNode }) {
  return (
    <span className="flex items-center gap-1.5 border border-line-strong bg-raised px-2 py-0.5">
      <span className="font-mono text-[12.5px]">{words}</span>
      {children}
      <button type="button" onClick={onDrop} aria-label={`Remove ${words}`} className="text-verdigris underline">
        Remove
      </button>
    </span>
  );
}
