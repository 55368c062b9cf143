"use client";

import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";
import type { DecidersPage, Finishing } from "@/contract/decisions";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords, listWords } from "../parts/words";
import { useDeciding, useShowAnew } from "./useDecisions";

/** How far somebody has come; and, before they finish, what that will do. */
export function FinishPart({ page }: { page: DecidersPage }) {
  const dates = useDates();
  const { door } = useDeciding();
  const showAnew = useShowAnew();
  const confirm = useRef<HTMLDivElement>(null);
  const preview = useMutation({
    mutationFn: () => ask(door.operations.finishing, { body: door.who }),
    onSuccess: () => requestAnimationFrame(() => confirm.current?.focus()),
  });
  const finish = useMutation({
    mutationFn: (digest: string) => ask(door.operations.finish, { body: { ...door.who, digest } }),
    onSuccess: () => preview.reset(),
    onSettled: showAnew,
  });
  const decided = page.lines.filter(
    ({ state, isSettled }) => state !== "open" && state !== "gone" && !isSettled,
  ).length;
  if (page.finished !== null && decided === 0)
    return (
      <Notice>
        You finished on {dates.day(page.finished)}. {WHEN[page.carriedOut]} You can close this page.
      </Notice>
    );
  return (
    <div className="fixed inset-x-0 bottom-0 border-t border-line-strong bg-surface">
      <div className="mx-auto max-w-3xl px-4 py-3 sm:px-8">
        {preview.data && (
          <div ref={confirm} tabIndex={-1} role="group" aria-label="What finishing will do" className="mb-3">
            <p className="font-semibold">{decidedWords(preview.data)}</p>
            <ul className="max-h-40 overflow-y-auto">
              {preview.data.words.map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
            {preview.data.open > 0 && (
              <p>
                {countWords(preview.data.open, "share is", "shares are")} still to decide; you can come back until{" "}
                {dates.day(page.closes)}.
              </p>
            )}
            <p className="text-ink-soft">{WHEN[page.carriedOut]}</p>
          </div>
        )}
        {(preview.error ?? finish.error) && <Notice tone="wrong">{(preview.error ?? finish.error)!.message}</Notice>}
        <p className="flex flex-wrap items-center gap-3">
          <span className="grow" role="status">
            {page.total - page.open} of {page.total} decided
          </span>
          {preview.data ? (
            <>
              <Button look="act" disabled={finish.isPending} onClick={() => finish.mutate(preview.data.digest)}>
                Confirm and finish
              </Button>
              <Button disabled={finish.isPending} onClick={() => preview.reset()}>
                Back
              </Button>
            </>
          ) : (
            <Button look="act" disabled={decided === 0 || preview.isPending} onClick={() => preview.mutate()}>
              Finish…
            </Button>
          )}
        </p>
      </div>
    </div>
  );
}

const WHEN: Record<DecidersPage["carriedOut"], string> = {
  finished: "Your decisions are carried out at once and can’t be changed after that.",
  closed: "Your decisions are carried out when the round closes; until then you can change them.",
  looked: "Your decisions are carried out once an administrator has reviewed them.",
};

function decidedWords({ ended, tightened, kept }: Finishing): string {
  const parts = [
    ended > 0 && `end ${ended}`,
    tightened > 0 && `tighten ${tightened}`,
    kept > 0 && `keep ${kept}`,
  ].filter((part) => part !== false);
  return `You ${listWords(parts)}.`;
}
