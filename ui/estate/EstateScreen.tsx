"use client";

import { useMutation } from "@tanstack/react-query";
import { estateOperations } from "@/contract/estate";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { ApprovalPart } from "./ApprovalPart";
import { ChannelsPart } from "./ChannelsPart";
import { HomePart } from "./HomePart";
import { OrdersPart } from "./OrdersPart";
import { StandInsPart } from "./StandInsPart";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { useEvents } from "../parts/useEvents";

/** The stores that are read, and how their last reading went. */
export function EstateScreen() {
  const { viewer } = useStandpoint();
  const dates = useDates();
  const status = useEvents(estateOperations.readingNews);
  const read = useMutation({ mutationFn: () => ask(estateOperations.readNow) });
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-5">
      <div className="mb-3 flex items-center gap-4">
        <h1 className="text-[20px] font-semibold">Stores</h1>
        {viewer.mayChange && (
          <Button look="act" disabled={status?.reading ?? true} onClick={() => read.mutate()}>
            Read changes now
          </Button>
        )}
        <span role="status" className="text-ink-soft">
          {status?.reading ? "Reading." : ""}
        </span>
        <span className="grow" />
        <Link href="/estate/directory" className="text-verdigris underline">
          Directories and sources
        </Link>
        <Link href="/estate/accounts" className="text-verdigris underline">
          Who signs in
        </Link>
      </div>
      {read.error && <Notice tone="wrong">{read.error.message}</Notice>}
      {status?.stores.length === 0 && (
        <Notice>No store is connected. See docs/command-line.md for how to connect one.</Notice>
      )}
      <ul className="max-w-3xl">
        {status?.stores.map((store) => (
          <li key={store.id} className="grid gap-x-3 sm:grid-cols-[180px_1fr] border-t border-line py-3">
            <b className="text-[15px] font-semibold">{store.name}</b>
            <span>
              {store.lastReadAt ? `Read ${dates.zoned(store.lastReadAt)}.` : "Not read yet."}{" "}
              {countWords(store.records, "record")} in the first reading.
              {store.lastError && (
                <span className="mt-1 block text-oxide">
                  The last reading failed: {store.lastError} It will be retried automatically.
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
      <StandInsPart />
      <OrdersPart />
      {viewer.mayChange && <HomePart />}
      {viewer.mayChange && <ApprovalPart />}
      {viewer.mayChange && <ChannelsPart />}
    </div>
  );
}
