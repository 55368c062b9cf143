"use client";

import { addressOf } from "@/contract/address";
import { estateOperations } from "@/contract/estate";

/** Export of everything that is known. */
export function DataPart() {
  return (
    <section aria-labelledby="data" className="max-w-3xl">
      <h1 id="data" className="mb-1 text-[20px] font-semibold">
        Data
      </h1>
      <h2 className="mt-3 text-[17px] font-semibold">Export everything</h2>
      <p className="mb-3 max-w-prose text-ink-soft">
        Stores, people, groups, items, shares, parties, projects and events as they are known now, as one estate file
        (JSON Lines). It can be imported again, here or elsewhere. The addresses of links aren’t in it: whoever has one
        gets in. That you exported it is recorded in the ledger.
      </p>
      <a
        href={addressOf(estateOperations.estateFile)}
        download
        className="inline-flex h-[30px] items-center rounded-[3px] border border-verdigris bg-verdigris px-3 font-semibold text-on-verdigris"
      >
        Export the estate
      </a>
    </section>
  );
}
