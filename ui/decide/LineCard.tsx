"use client";

import { useEffect, useId, useRef, useState } from "react";
import type { DecidedLine } from "@/contract/decisions";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { ShowOnce } from "../parts/ShowOnce";
import { useDates } from "../parts/useDates";
import { plainWords } from "../parts/words";
import { Decide } from "./Decide";
import { useDeciding } from "./useDecisions";
import { decisionWords, OUTCOMES, suggestionWords, usedWords } from "./words";

/** One share: what it does, for whom, who used it, what is suggested, and what somebody decides about it. */
export function LineCard({ line, limitDays }: { line: DecidedLine; limitDays: number }) {
  const id = useId();
  const { itemName, sentence, before, label, decision, state, isSettled } = line;
  const isOpen = state === "open" && !isSettled;
  const card = useFocusWhenDecided(isOpen);
  return (
    <article ref={card} tabIndex={-1} aria-labelledby={id}>
      <h3 id={id} className="font-semibold wrap-anywhere">
        {itemName}
        {label && <span className="ml-2 font-normal text-ink-faint">{plainWords(label)}</span>}
      </h3>
      {before !== null && (
        <p className="mt-1 border-l-[3px] border-copper pl-2.5">
          <b className="font-semibold">This share has changed since you were asked.</b> Before: {before}
        </p>
      )}
      <p>
        {before !== null && "Now: "}
        {sentence}
      </p>
      {isOpen ? (
        <Open line={line} limitDays={limitDays} />
      ) : (
        <>
          <p className="mt-1 font-semibold text-verdigris">{OUTCOMES[state]}</p>
          {decision && state !== "gone" && <Decided line={line} limitDays={limitDays} />}
        </>
      )}
    </article>
  );
}

/** Keeps the place of somebody who decides by keyboard, since the button that they pressed is gone. */
function useFocusWhenDecided(isOpen: boolean) {
  const card = useRef<HTMLElement>(null);
  const wasOpen = useRef(isOpen);
  useEffect(() => {
    const isLost = document.activeElement === null || document.activeElement === document.body;
    if (wasOpen.current && !isOpen && isLost) card.current?.focus({ preventScroll: true });
    wasOpen.current = isOpen;
  }, [isOpen]);
  return card;
}

function Open({ line, limitDays }: { line: DecidedLine; limitDays: number }) {
  const dates = useDates();
  const { now } = useDeciding();
  return (
    <>
      <p className="text-ink-soft">{usedWords(line, now, dates)}</p>
      <details className="mt-1 mb-2">
        <summary className="cursor-pointer">
          <span className="text-ink-soft">Suggested:</span> {suggestionWords(line, dates)}
        </summary>
        <ul className="mt-1 ml-4">
          {line.reasons.map(({ rule, title, reason }) => (
            <li key={rule}>
              <b className="font-semibold">{title}.</b> {reason}
            </li>
          ))}
        </ul>
      </details>
      <Decide lines={[line]} limitDays={limitDays} />
    </>
  );
}

/** What was decided, with what came of it; until it is carried out it can be changed. */
function Decided({ line, limitDays }: { line: DecidedLine; limitDays: number }) {
  const dates = useDates();
  const { door } = useDeciding();
  const [isChanging, setChanging] = useState(false);
  const { decision, isSettled, steps } = line;
  return (
    <>
      <p className="mt-1 flex flex-wrap items-center gap-3">
        <span className="font-semibold text-verdigris">{decisionWords(decision!, line, dates)}</span>
        {!isSettled && (
          <Button aria-expanded={isChanging} onClick={() => setChanging(!isChanging)}>
            Change
          </Button>
        )}
      </p>
      {steps.map(({ words, state, answer, passphrase }) => (
        <div key={words} className="mt-1 text-ink-soft">
          {words}: {STEP_WORDS[state] ?? `not done. ${answer}`}
          {passphrase && (
            <ShowOnce show={() => ask(door.operations.showPassphrase, { body: { ...door.who, change: passphrase } })} />
          )}
        </div>
      ))}
      {isChanging && !isSettled && (
        <div className="mt-2">
          <Decide lines={[line]} limitDays={limitDays} onDecided={() => setChanging(false)} />
        </div>
      )}
    </>
  );
}

const STEP_WORDS: Partial<Record<DecidedLine["steps"][number]["state"], string>> = {
  staged: "in progress…",
  sending: "in progress…",
  done: "done.",
  "by-hand": "somebody has to change it in the store by hand.",
};
