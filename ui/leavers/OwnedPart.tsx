"use client";

import type { LeaverSheet } from "@/core/leavers/sheet";
import { asOf, useStandpoint } from "../frame/viewer";
import { Finder } from "../parts/Finder";
import { Link } from "../parts/Link";
import { countWords, plainWords } from "../parts/words";

interface Props {
  sheet: LeaverSheet;
  owner: string;
  onOwner: ((address: string) => void) | null;
}

/** What a leaver owns, and who is to own it. */
export function OwnedPart({ sheet: { owned, ownedCount, heir }, owner, onOwner }: Props) {
  const { past } = useStandpoint();
  return (
    <section aria-label="What they own" className="mt-5">
      <h2 className="text-[15px] font-semibold">Owns {countWords(ownedCount, "item")}</h2>
      {onOwner && (
        <div className="my-1 max-w-md">
          <p className="mb-1 font-semibold">Hand it all over to</p>
          <Finder
            label="New owner"
            placeholder="name or address"
            kinds={["owner"]}
            value={owner}
            onPick={(subject) => onOwner(subject?.id ?? "")}
          />
          <p className="text-[12.5px] text-ink-soft">
            {heir
              ? `${heir.name} is ${heir.as === "manager" ? "their manager" : "the head of their department"}.`
              : "They have no active manager and their department has no head: choose somebody."}{" "}
            Links on it that you don’t end are handed over too.
          </p>
        </div>
      )}
      <ul className="mt-1 max-h-56 overflow-y-auto" tabIndex={0} aria-label="Items">
        {owned.map(({ id, name, label, place }) => (
          <li key={id} className="flex gap-4 border-t border-line py-1">
            <span className="grow">
              <Link href={asOf(`/ways?item=${encodeURIComponent(id)}`, past)} className="text-verdigris underline">
                {name}
              </Link>{" "}
              <span className="text-[12px] text-ink-faint">{place.join(" / ")}</span>
            </span>
            <span className="text-ink-soft">{plainWords(label)}</span>
          </li>
        ))}
      </ul>
      {ownedCount > owned.length && (
        <p className="text-ink-soft">The {owned.length} at the top of the tree are listed.</p>
      )}
    </section>
  );
}
