"use client";

import { shownName } from "@/core/text/shown";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { importsOperations, type LookTold, type SavedMappingTold } from "@/contract/imports";
import { lacks, previewOf, takenForGranted } from "@/core/imports/preview";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { ColumnsPart } from "./ColumnsPart";
import { OutlookPart } from "./OutlookPart";
import { ReadingPart } from "./ReadingPart";
import { RestPart } from "./RestPart";
import { RowsPart } from "./RowsPart";
import { StorePart } from "./StorePart";
import { useMapping } from "./useMapping";
import type { useReport } from "./useReport";

interface Props {
  look: LookTold;
  saved: readonly SavedMappingTold[];
  report: ReturnType<typeof useReport>;
}

/** A report that has been looked at: how it is read, what it comes to, what importing it changes. */
export function MapReport({ look, saved, report: { hand, lookAgain, again } }: Props) {
  const dates = useDates();
  const { viewer } = useStandpoint();
  const map = useMapping(look, saved, dates.settings.zone);
  const { mapping, known, store } = map;
  // What follows the whole screen below is shown where somebody wants to see how the report is read.
  const [isOpen, setOpen] = useState(known === null);
  const preview = useMemo(() => previewOf(look.rows, mapping), [look.rows, mapping]);
  const check = useMutation({
    mutationFn: () =>
      ask(importsOperations.checkReport, { body: { source: store.source, title: store.title, mapping } }),
    onSettled: again,
  });
  const take = useMutation({
    mutationFn: (given: { skips: boolean; ended: number | null }) =>
      ask(importsOperations.takeReport, { body: { ...given, digest: hand!.outlook!.digest, mapping: store.source } }),
    onSettled: again,
  });
  const stop = useMutation({ mutationFn: () => ask(importsOperations.stopReport, { body: {} }), onSettled: again });
  const begin = check.mutate;
  // A report of a shape that is known is checked at once: one press then imports it.
  useEffect(() => {
    if (known) begin();
  }, [known, begin]);
  const missing = lacks(mapping) ?? (store.source === "" || store.title.trim() === "" ? "Name the store." : null);
  const change = (work: () => void) => {
    check.reset();
    work();
  };
  const isStale = check.isIdle;
  const { outlook, step, problem, imported, unchangedSince } = hand ?? NOTHING;
  return (
    <>
      <p className="mt-3">
        <b className="font-semibold">{shownName(look.file)}</b>: {countWords(look.count, "row")}, headings included.
      </p>
      {known && (
        <Notice>
          Its columns are those of {known.title}, last mapped by {known.savedBy}. It is read in the same way.{" "}
          {!isOpen && (
            <button type="button" className="text-verdigris underline" onClick={() => setOpen(true)}>
              Show how
            </button>
          )}
        </Notice>
      )}
      {isOpen && (
        <>
          <ReadingPart {...{ look, mapping }} onRead={lookAgain.mutate} onMap={(to) => change(() => map.set(to))} />
          <ColumnsPart
            rows={look.rows}
            columns={map.columns}
            mapping={mapping}
            proposals={map.proposals}
            unmapped={outlook?.unmapped ?? []}
            onColumn={(column, field) => change(() => map.setColumn(column, field))}
            onMeaning={(field, text, meaning) => change(() => map.setMeaning(field, text, meaning))}
          />
          <RestPart {...{ mapping }} question={preview.question} onMap={(to) => change(() => map.set(to))} />
          <RowsPart preview={preview} />
          <ul className="mt-3 max-w-prose text-ink-soft">
            {takenForGranted(mapping).map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
          <StorePart store={store} saved={saved} onStore={(to) => change(() => map.setStore(to))} />
        </>
      )}
      {missing && <Notice>{missing}</Notice>}
      {viewer.mayChange && (isStale || problem) && !step && (
        <p className="mt-3">
          <Button look="act" disabled={missing !== null || check.isPending} onClick={() => check.mutate()}>
            Check {countWords(look.count, "row")}
          </Button>
        </p>
      )}
      <div role="status" className="mt-3">
        {check.isPending && !step && "Starting to check it."}
        {step && (
          <span className="flex items-center gap-3">
            {step.words}: {step.done.toLocaleString("en-GB")}
            <Button onClick={() => stop.mutate()}>Stop</Button>
          </span>
        )}
        {imported && !step && (
          <>
            {imported.isStopped ? "Stopped. " : "Imported. "}
            {countWords(imported.changed, "record")} new or changed, {countWords(imported.ended, "share")} ended
            {imported.ticked > 0 && `, and ${countWords(imported.ticked, "change")} seen to be done by hand`}.{" "}
            {imported.isStopped && "What was written stays, and no share counts as ended. Check and import it again. "}
            <Link
              href={`/register?q=${encodeURIComponent(`store:"${store.title}"`)}`}
              className="text-verdigris underline"
            >
              See its shares in the register
            </Link>
          </>
        )}
      </div>
      {[check.error?.message, take.error?.message, problem].filter(Boolean).map((message) => (
        <Notice key={message} tone="wrong">
          {message}
        </Notice>
      ))}
      {unchangedSince !== null && !isStale && !step && (
        <Notice>
          This very report was imported on {dates.moment(unchangedSince)}, and read in the same way. There is nothing to
          do.
        </Notice>
      )}
      {outlook && !isStale && !step && (
        <OutlookPart outlook={outlook} isBusy={take.isPending} onTake={(given) => take.mutate(given)} />
      )}
    </>
  );
}

const NOTHING = { outlook: null, step: null, problem: null, imported: null, unchangedSince: null };
