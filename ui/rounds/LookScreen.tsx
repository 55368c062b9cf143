"use client";

import { useQuery } from "@tanstack/react-query";
import { type LookLine, roundsOperations } from "@/contract/rounds";
import type { LineDecision } from "@/core/rounds/line";
import { within } from "@/core/text/text";
import { useStandpoint } from "../frame/viewer";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useDates } from "../parts/useDates";
import { listWords } from "../parts/words";
import { useMutation, useQueryClient } from "@tanstack/react-query";

interface Props {
  round: string;
  look: string;
}

/** Lines that were kept, drawn by chance, to be decided again without what was said first. */
export function LookScreen(props: Props) {
  return useStandpoint().past === null ? <LookNow {...props} /> : <OfNow />;
}

function LookNow({ round, look: id }: Props) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const operation = roundsOperations.lookLines;
  const { data, error } = useQuery(asked(operation, { params: { id } }));
  const decide = useMutation({
    mutationFn: (given: { shares: string[]; decision: LineDecision }) =>
      ask(roundsOperations.decideLook, { params: { id }, body: given }),
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(operation, { id }) }),
  });
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-5">
      <nav aria-label="Where this is" className="text-ink-soft">
        <Link href="/rounds" className="underline">
          Rounds
        </Link>{" "}
        /{" "}
        <Link href={`/rounds/${round}`} className="underline">
          The round
        </Link>{" "}
        / Second look
      </nav>
      <h1 className="text-[20px] font-semibold">Would you have kept these?</h1>
      {(error ?? decide.error) && <Notice tone="wrong">{(error ?? decide.error)!.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <>
          <p className="max-w-prose text-ink-soft" role="status">
            {data.look.size} of {data.look.of} kept shares, drawn at random. {data.look.decided} looked at,{" "}
            {data.look.differ} decided differently. What you decide here goes on record but changes nothing.
          </p>
          <p className="max-w-prose text-ink-faint">
            Drawn with the seed <code className="font-mono text-[12px]">{data.look.seed}</code>, which was recorded in
            the ledger beforehand.
          </p>
          <ul className="mt-3 max-w-4xl">
            {data.lines.map((line) => (
              <li key={line.shareId} className="border-t border-line py-2.5">
                <Again
                  line={line}
                  onDecide={
                    viewer.mayChange ? (decision) => decide.mutate({ shares: [line.shareId], decision }) : undefined
                  }
                />
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

const AGAIN: [LineDecision, string][] = [
  ["keep", "Keep"],
  ["tighten", "Tighten"],
  ["end", "End"],
];

function Again({ line, onDecide }: { line: LookLine; onDecide?: (decision: LineDecision) => void }) {
  const { now } = useStandpoint();
  const dates = useDates();
  const { itemName, place, sentence, reasons, lastUsed, decision } = line;
  return (
    <div className="grid gap-x-6 sm:grid-cols-[minmax(0,1fr)_220px]">
      <div className="wrap-anywhere">
        <b className="font-semibold">{itemName}</b> <span className="text-ink-faint">{place}</span>
        <p>{sentence}</p>
        <p className="text-ink-soft">
          {lastUsed === null ? "No known use." : `Last used ${dates.distance(lastUsed, now)}.`}{" "}
          {reasons.length > 0 && `It breaks: ${listWords(reasons.map(within))}.`}
        </p>
      </div>
      <div role="group" aria-label={`Decide about ${itemName} again`} className="flex items-start gap-2">
        {onDecide
          ? AGAIN.map(([value, words]) => (
              <Button key={value} aria-pressed={decision === value} onClick={() => onDecide(value)}>
                {words}
              </Button>
            ))
          : (decision ?? "not reviewed yet")}
      </div>
    </div>
  );
}
