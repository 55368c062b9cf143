"use client";

import { useQuery } from "@tanstack/react-query";
import { addressOf } from "@/contract/address";
import { docketsOperations } from "@/contract/dockets";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { countWords } from "../parts/words";
import { asked } from "../parts/ask";

/** What is left to be done by hand of a docket, owner by owner, to be put on paper or taken along as a table. */
export function HandWorkScreen({ id }: { id: string }) {
  const { data, error } = useQuery({
    ...asked(docketsOperations.handWork, { params: { id } }),
  });
  const work = data?.work ?? [];
  const owners = [...new Set(work.map(({ owner }) => owner))];
  return (
    <div className="h-full overflow-y-auto bg-raised p-6">
      <div className="flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">To be done by hand</h1>
        <Link href={`/ledger/dockets/${id}`} className="on-paper-none text-verdigris underline">
          Back to the docket
        </Link>
        <a
          href={addressOf(docketsOperations.handWorkTable, { params: { id } })}
          className="on-paper-none text-verdigris underline"
        >
          Export CSV
        </a>
        <span className="grow" />
        <PrintButton />
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && (
        <p className="mt-1 text-ink-soft">
          {work.length === 0
            ? "Nothing is left to do by hand."
            : `${countWords(work.length, "change")} in stores known only from a file. The next import ticks off what has been done.`}
        </p>
      )}
      {owners.map((owner) => (
        <section key={owner} className="mt-5">
          <h2 className="border-b border-line-strong pb-1 font-semibold">{owner || "No known owner"}</h2>
          <ul>
            {work
              .filter((one) => one.owner === owner)
              .map((one) => (
                <li key={one.subject} className="flex gap-4 border-b border-line py-1.5">
                  <span aria-hidden className="mt-0.5 size-[15px] shrink-0 border border-control" />
                  <b className="w-40 shrink-0 font-semibold">{one.words}</b>
                  <span className="min-w-0 grow">
                    {one.itemName}, {one.audience}
                    <span className="block text-ink-faint">
                      {one.where}, <span className="font-mono text-[12px]">{one.subject}</span>
                    </span>
                  </span>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
