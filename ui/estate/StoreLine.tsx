"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type StoreTold, storesOperations } from "@/contract/stores";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { ReadingDays } from "./ReadingDays";
import { capabilityWords } from "./storeWords";

/** One store: where it is, how its last reading went, what it can do, and what can be done with it. */
export function StoreLine({ store }: { store: StoreTold }) {
  const { viewer } = useStandpoint();
  const { id, name, url, isRead, capabilities, records, days } = store;
  return (
    <li className="grid gap-x-4 border-t border-line py-3 sm:grid-cols-[180px_1fr]">
      <div>
        <b className="text-[15px] font-semibold wrap-anywhere">{name}</b>
        <span className="block text-[12px] wrap-anywhere text-ink-faint">{isRead ? url : "known from imports"}</span>
      </div>
      <div className="min-w-0">
        <p>
          <ReadWords store={store} /> {countWords(records, "record")} known.
        </p>
        <Trouble store={store} />
        <details className="mt-1">
          <summary className="cursor-pointer text-verdigris">What it can do, and how its readings went</summary>
          {capabilities && <Can capabilities={capabilities} />}
          <ReadingDays days={days} />
        </details>
        {viewer.mayChange && isRead && <Acts id={id} name={name} />}
        {!isRead && (
          <Link href="/estate/imports/new" className="text-verdigris underline">
            Import its next report
          </Link>
        )}
      </div>
    </li>
  );
}

function ReadWords({ store: { isRead, lastReadAt, readsAgain, days } }: { store: StoreTold }) {
  const dates = useDates();
  if (readsAgain) return "Reading all of it again.";
  if (lastReadAt === null) return isRead ? "Not read yet." : "Imported as an estate file.";
  return isRead ? `Read ${dates.zoned(lastReadAt)}.` : `Imported ${dates.day(days[0].day + "T12:00:00Z")}.`;
}

/** What went wrong, and what to do about it. */
function Trouble({ store: { isRead, isLate, lastError } }: { store: StoreTold }) {
  if (lastError)
    return (
      <p className="mt-1 text-oxide">
        The last reading failed: {lastError} It will be retried automatically. If it goes on, check that the store is
        running, and connect it again with its address and key.
      </p>
    );
  if (!isLate) return null;
  return (
    <p className="mt-1 text-copper">
      {isRead
        ? "It hasn’t been read for longer than usual. Read changes now to see why."
        : "Its reports usually come more often than this. What is said of it may be out of date."}
    </p>
  );
}

function Can({ capabilities }: { capabilities: NonNullable<StoreTold["capabilities"]> }) {
  const { can, cannot } = capabilityWords(capabilities);
  return (
    <dl className="mt-1 max-w-prose">
      <div>
        <dt className="inline font-semibold">Can: </dt>
        <dd className="inline">{can}.</dd>
      </div>
      {cannot && (
        <div>
          <dt className="inline font-semibold">Can’t: </dt>
          <dd className="inline">{cannot}.</dd>
        </div>
      )}
    </dl>
  );
}

function Acts({ id, name }: { id: string; name: string }) {
  const client = useQueryClient();
  const [isAsking, setAsking] = useState(false);
  const settled = { onSettled: () => client.invalidateQueries() };
  const again = useMutation({
    mutationFn: () => ask(storesOperations.readStoreAgain, { params: { id } }),
    ...settled,
  });
  const disconnect = useMutation({
    mutationFn: () => ask(storesOperations.disconnectStore, { params: { id } }),
    ...settled,
  });
  const problem = again.error ?? disconnect.error;
  return (
    <div className="mt-2">
      {!isAsking && (
        <p className="flex gap-2">
          <Button disabled={again.isPending} onClick={() => again.mutate()}>
            Read all of it again<span className="sr-only"> ({name})</span>
          </Button>
          <Button onClick={() => setAsking(true)}>
            Disconnect…<span className="sr-only"> ({name})</span>
          </Button>
        </p>
      )}
      {isAsking && (
        <div className="max-w-prose border border-oxide bg-surface px-4 py-3">
          <p>
            What is known of {name} stays as of its last reading and is no longer kept up to date. Changes to its shares
            become work lists, to be done by hand. Its key is deleted. You can connect it again later.
          </p>
          <p className="mt-2 flex gap-2">
            <Button look="end" disabled={disconnect.isPending} onClick={() => disconnect.mutate()}>
              Disconnect {name}
            </Button>
            <Button onClick={() => setAsking(false)}>Cancel</Button>
          </p>
        </div>
      )}
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
    </div>
  );
}
