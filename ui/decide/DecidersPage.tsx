"use client";

import type { DecidersPage as Page } from "@/contract/decisions";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { FinishPart } from "./FinishPart";
import { groupsOf } from "./grouping";
import { LineGroupPart } from "./LineGroupPart";
import { usePage } from "./useDecisions";
import { headline, timeWords, undecidedWords } from "./words";

/** Everything that somebody is asked in one round, and the outcome. */
export function DecidersPage() {
  const { data: page, error } = usePage();
  return (
    <main className="mx-auto min-h-screen max-w-3xl bg-raised px-4 pt-5 pb-28 sm:px-8">
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!page && !error && <Loading />}
      {page && <Asked page={page} />}
    </main>
  );
}

function Asked({ page }: { page: Page }) {
  const dates = useDates();
  const { name, note, lines, total, by, open } = page;
  const isOpen = page.state === "open";
  return (
    <>
      <p className="text-ink-faint">{name}</p>
      <h1 className="text-[22px] leading-tight font-semibold" aria-live="polite">
        {headline(page, dates)}
      </h1>
      {isOpen && open > 0 && (
        <p className="mt-1">
          {timeWords(open)} Anything you don’t decide by then {undecidedWords(page)}.
        </p>
      )}
      {isOpen && open === 0 && page.finished === null && (
        <p className="mt-1">When you are done, finish below: you see what will happen first.</p>
      )}
      {page.state === "stopped" && <p className="mt-1">Nothing more will be carried out. You can close this page.</p>}
      {note !== "" && (
        <blockquote className="mt-3 border-l-[3px] border-line-strong pl-3 whitespace-pre-line">{note}</blockquote>
      )}
      {total > lines.length && (
        <Notice>
          These are {lines.length} of your {countWords(total, "share")}. The rest appear as you finish these.
        </Notice>
      )}
      {groupsOf(lines, by).map((group) => (
        <LineGroupPart
          key={group.key}
          group={group}
          by={by}
          files={page.files[group.key] ?? 0}
          limitDays={page.limitDays}
        />
      ))}
      {isOpen && <FinishPart page={page} />}
    </>
  );
}
