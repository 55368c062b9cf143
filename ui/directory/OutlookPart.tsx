"use client";

import { useState } from "react";
import type { OutlookTold } from "@/contract/directory";
import { type Outcome, OUTCOMES } from "@/core/directory/reading";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { OUTCOME_WORDS } from "./words";

interface Props {
  outlook: OutlookTold;
  isReading: boolean;
  onRead: () => void;
}

/** What reading a list would change, and the button that reads it; or what is wrong with it. */
export function OutlookPart({ outlook, isReading, onRead }: Props) {
  const { problems, remarks, counts, turns, joined, gone, brake } = outlook;
  const [isSure, setSure] = useState(false);
  if (problems.length > 0)
    return (
      <div className="mt-3">
        <Notice tone="wrong">The list can’t be read until this is corrected. Nothing has changed.</Notice>
        <Lines lines={problems} label="What is wrong" />
      </div>
    );
  const isNothing = turns.length + joined + gone === 0;
  return (
    <div className="mt-3">
      {isNothing && <Notice>The list matches what is known already. Reading it changes nobody.</Notice>}
      {OUTCOMES.filter((outcome) => outcome !== "same" && (counts[outcome] ?? 0) > 0).map((outcome) => (
        <Turns key={outcome} {...{ outcome, outlook }} />
      ))}
      {joined + gone > 0 && (
        <p className="mt-3">
          <b className="font-semibold">Groups:</b> {countWords(joined, "membership begins", "memberships begin")},{" "}
          {countWords(gone, "ends", "end")}.
        </p>
      )}
      {(counts.same ?? 0) > 0 && !isNothing && (
        <p className="mt-2 text-ink-soft">{countWords(counts.same!, ...OUTCOME_WORDS.same)}.</p>
      )}
      {remarks.length > 0 && (
        <>
          <p className="mt-3 font-semibold">Unusual, but read as it is</p>
          <Lines lines={remarks} label="What is unusual" />
        </>
      )}
      {brake && (
        <div className="mt-3 border border-oxide bg-surface px-4 py-3">
          <p>
            <b className="font-semibold">
              {brake.inactive.toLocaleString("en-GB")} of the {brake.active.toLocaleString("en-GB")} people who are
              active here would stop being active.
            </b>{" "}
            A list with half of its lines missing looks like this. Check that it is complete.
          </p>
          <label className="mt-2 flex gap-2">
            <input type="checkbox" checked={isSure} onChange={(event) => setSure(event.target.checked)} />
            The list is complete: these {brake.inactive.toLocaleString("en-GB")} people are no longer active.
          </label>
        </div>
      )}
      <p className="mt-3">
        <Button look="act" disabled={isReading || (brake !== null && !isSure)} onClick={onRead}>
          {isReading ? "Reading…" : "Read the list"}
        </Button>
      </p>
    </div>
  );
}

const FIRST = 10;

function Turns({ outcome, outlook: { counts, turns } }: { outcome: Outcome; outlook: OutlookTold }) {
  const [isWhole, setWhole] = useState(false);
  const some = turns.filter((turn) => turn.outcome === outcome);
  const count = counts[outcome]!;
  const shown = isWhole ? some : some.slice(0, FIRST);
  return (
    <section aria-label={OUTCOME_WORDS[outcome][1]} className="mt-3">
      <h3 className="font-semibold">{countWords(count, ...OUTCOME_WORDS[outcome])}</h3>
      <ul>
        {shown.map(({ address, name, words }) => (
          <li key={address} className="flex flex-wrap gap-x-3 border-t border-line py-1">
            <span>{name}</span>
            <span className="font-mono text-[12.5px] text-ink-faint">{address}</span>
            <span className="text-ink-soft">{words}</span>
          </li>
        ))}
      </ul>
      {shown.length < some.length && (
        <button type="button" className="text-verdigris underline" onClick={() => setWhole(true)}>
          Show {some.length === count ? `all ${count.toLocaleString("en-GB")}` : `the first ${some.length}`}
        </button>
      )}
      {isWhole && some.length < count && (
        <p className="text-ink-soft">and {(count - some.length).toLocaleString("en-GB")} more.</p>
      )}
    </section>
  );
}

function Lines({ lines, label }: { lines: readonly { line: number; message: string }[]; label: string }) {
  return (
    <ul aria-label={label} tabIndex={0} className="mt-1 max-h-56 overflow-y-auto">
      {lines.map(({ line, message }, i) => (
        <li key={i} className="flex gap-3 border-t border-line py-1">
          <span className="w-20 shrink-0 text-ink-faint tabular-nums">line {line.toLocaleString("en-GB")}</span>
          <span className="wrap-anywhere">{message}</span>
        </li>
      ))}
    </ul>
  );
}
