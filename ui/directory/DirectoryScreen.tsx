"use client";

import { useQuery } from "@tanstack/react-query";
import { directoryOperations } from "@/contract/directory";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { BeliefPart } from "./BeliefPart";
import { LeftAfterPart } from "./LeftAfterPart";
import { ReadListPart } from "./ReadListPart";

/** Sources of people: lists from directories, and which source is believed first. */
export function DirectoryScreen() {
  const { viewer, past } = useStandpoint();
  const { data, error } = useQuery(asked(directoryOperations.sources));
  const mayChange = viewer.mayChange && past === null;
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <h1 className="text-[20px] font-semibold">Directories</h1>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <>
          {mayChange && <ReadListPart sources={data.sources} />}
          <BeliefPart key={data.sources.map(({ name }) => name).join()} sources={data.sources} mayChange={mayChange} />
          <LeftAfterPart key={data.leftAfterDays} days={data.leftAfterDays} mayChange={mayChange} />
        </>
      )}
    </div>
  );
}
