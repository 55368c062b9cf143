"use client";

import { useQuery } from "@tanstack/react-query";
import type { DragEvent } from "react";
import { importsOperations } from "@/contract/imports";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { MapReport } from "./MapReport";
import { useReport } from "./useReport";

export function ImportScreen() {
  return useStandpoint().past === null ? <ImportNow /> : <OfNow />;
}

/** Takes a report from its file to a judged store: choose it, see what is understood, see what changes, import it. */
function ImportNow() {
  const report = useReport();
  const { data } = useQuery(asked(importsOperations.imports));
  const { look, send, lookAgain } = report;
  const choose = (file: File | undefined) => file && send.mutate(file);
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    choose(event.dataTransfer.files[0]);
  };
  return (
    <div className="relative h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0}>
      <h1 className="text-[20px] font-semibold">Import a report</h1>
      <p className="max-w-prose text-ink-soft">
        For a store that can’t be read directly: export who has access there as CSV or as a workbook (.xlsx). Nothing
        changes until you have seen what would change.
      </p>
      <label
        onDragOver={(event) => event.preventDefault()}
        onDrop={onDrop}
        className="mt-3 flex max-w-3xl items-center gap-3 border border-dashed border-line-strong bg-surface px-4 py-3"
      >
        <span className="font-semibold">File</span>
        <input
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,text/csv"
          // A browser says nothing where the same file is chosen again, though it may hold something else by now.
          onClick={({ currentTarget }) => (currentTarget.value = "")}
          onChange={({ target }) => choose(target.files?.[0])}
          className="file:mr-3 file:h-[30px] file:rounded-[3px] file:border file:border-solid file:border-control file:bg-raised file:px-3"
        />
        <span className="text-ink-faint">or drag it here</span>
      </label>
      {(send.isPending || lookAgain.isPending) && <Loading className="mt-3" />}
      {send.error && <Notice tone="wrong">{send.error.message}</Notice>}
      {lookAgain.error && <Notice tone="wrong">{lookAgain.error.message}</Notice>}
      {look && data && (
        <MapReport key={`${send.submittedAt} ${shapeOf(look)}`} {...{ look, report }} saved={data.mappings} />
      )}
      <p className="mt-6">
        <Link href="/estate/imports" className="text-verdigris underline">
          What has been imported
        </Link>
      </p>
    </div>
  );
}

/** What was mapped holds as long as the file is read in the same way. */
function shapeOf({ encoding, separator, sheet }: NonNullable<ReturnType<typeof useReport>["look"]>) {
  return [encoding, separator, sheet].join("\n");
}
