"use client";

import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { estateOperations } from "@/contract/estate";
import { storesOperations } from "@/contract/stores";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useEvents } from "../parts/useEvents";
import { AddStorePart } from "./AddStorePart";
import { StoreLine } from "./StoreLine";

/** The stores, what each can do, and how their readings have gone. */
export function EstateScreen() {
  const { viewer } = useStandpoint();
  const status = useEvents(estateOperations.readingNews);
  const { data, error, refetch } = useQuery(asked(storesOperations.storesTold));
  const read = useMutation({ mutationFn: () => ask(estateOperations.readNow) });
  const isReading = status?.reading ?? false;
  // What a reading has found is told once it is over.
  useEffect(() => {
    if (!isReading) void refetch();
  }, [isReading, refetch]);
  const isNone = data?.stores.length === 0;
  return (
    <div className="relative h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0}>
      <div className="mb-2 flex items-center gap-4">
        <h1 className="text-[20px] font-semibold">Stores</h1>
        {viewer.mayChange && !isNone && (
          <Button look="act" disabled={status?.reading ?? true} onClick={() => read.mutate()}>
            Read changes now
          </Button>
        )}
        <span role="status" className="text-ink-soft">
          {isReading ? "Reading." : ""}
        </span>
      </div>
      {(read.error ?? error) && <Notice tone="wrong">{(read.error ?? error)!.message}</Notice>}
      {!data && !error && <Loading />}
      {isNone && (
        <Notice>
          No store is known yet. Connect one below, or{" "}
          <Link href="/estate/imports/new" className="underline">
            import a report
          </Link>{" "}
          that it exports.
        </Notice>
      )}
      <ul className="max-w-5xl">
        {data?.stores.map((store) => (
          <StoreLine key={store.id} store={store} />
        ))}
      </ul>
      {viewer.mayChange && <AddStorePart isFirst={isNone} />}
    </div>
  );
}
