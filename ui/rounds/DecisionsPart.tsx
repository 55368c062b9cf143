"use client";

import { useQuery } from "@tanstack/react-query";
import { parseAsInteger, parseAsStringLiteral, useQueryStates } from "nuqs";
import { type DecisionView, type RoundView, roundsOperations } from "@/contract/rounds";
import { LINE_STATES } from "@/core/rounds/line";
import { rfc3339 } from "@/core/time/instant";
import { asOf } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords, plainWords } from "../parts/words";
import { SHOWN_STATES, STATE_WORDS } from "./words";

/** What was decided about each share, as it came. */
export function DecisionsPart({ round }: { round: RoundView }) {
  const [{ state, from }, setAsked] = useQueryStates({
    state: parseAsStringLiteral(LINE_STATES),
    from: parseAsInteger.withDefault(0),
  });
  const { data, error } = useQuery({
    ...asked(roundsOperations.roundLines, {
      params: { id: String(round.id) },
      query: { from, state: state ?? undefined },
    }),
    placeholderData: (before) => before,
    refetchInterval: 15_000,
  });
  return (
    <section aria-labelledby="decisions" className="mt-6">
      <h2 id="decisions" className="text-[16px] font-semibold">
        Decisions
      </h2>
      <div role="group" aria-label="Which are shown" className="my-1.5 flex flex-wrap gap-2">
        <Button aria-pressed={state === null} onClick={() => void setAsked({ state: null, from: null })}>
          All
        </Button>
        {SHOWN_STATES.filter((one) => (round.counts[one] ?? 0) > 0).map((one) => (
          <Button key={one} aria-pressed={state === one} onClick={() => void setAsked({ state: one, from: null })}>
            {plainWords(STATE_WORDS[one])}
          </Button>
        ))}
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      <ul>
        {data?.lines.map((line) => (
          <li key={line.shareId} className="border-t border-line py-1.5">
            <Decision line={line} opened={round.openedAt} />
          </li>
        ))}
      </ul>
      {data && data.total > from + data.lines.length && (
        <Button onClick={() => void setAsked({ from: from + data.lines.length })}>
          Next of {countWords(data.total, "share")}
        </Button>
      )}{" "}
      {from > 0 && <Button onClick={() => void setAsked({ from: null })}>From the start</Button>}
    </section>
  );
}

function Decision({ line, opened }: { line: DecisionView; opened: number | null }) {
  const dates = useDates();
  const { shareId, itemName, place, audience, state, until, reason, suggested, by, at, docketId } = line;
  const against =
    suggested !== null && at !== null && { kept: "keep", tightened: "tighten", ended: "end" }[state as string];
  return (
    <div className="grid gap-x-4 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <div className="wrap-anywhere">
        <Link href={`/register?share=${encodeURIComponent(shareId)}`} className="text-verdigris underline">
          {itemName}
        </Link>
        <span className="block text-[12px] text-ink-faint">
          {place}. {audience}.
        </span>
      </div>
      <div className="wrap-anywhere">
        <b className="font-semibold">{plainWords(STATE_WORDS[state])}</b>
        {until !== null && ` until ${dates.day(until)}`}
        {against && against !== suggested && <span className="text-copper"> (suggested: {suggested})</span>}
        {reason && `: ${reason}`}
        <span className="block text-[12px] text-ink-faint">
          {at !== null && `${by}, ${dates.moment(at)}. `}
          {line.isPassed && "Passed on. "}
          {line.isChanged && "Changed since it was first asked. "}
          {opened !== null && (
            <Link href={asOf(`/register?share=${encodeURIComponent(shareId)}`, rfc3339(opened))} className="underline">
              As it was when the round opened
            </Link>
          )}{" "}
          {docketId && (
            <Link href={`/ledger/dockets/${docketId}`} className="underline">
              Docket
            </Link>
          )}
        </span>
      </div>
    </div>
  );
}
