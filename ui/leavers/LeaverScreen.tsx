"use client";

import { useQuery } from "@tanstack/react-query";
import { parseAsString, useQueryState } from "nuqs";
import { useState } from "react";
import { leaversOperations } from "@/contract/leavers";
import type { Intent } from "@/core/changes/intent";
import type { LeaverLink, LeaverSheet } from "@/core/leavers/sheet";
import { useTray } from "../frame/useTray";
import { asOf, useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Finder } from "../parts/Finder";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { useDates } from "../parts/useDates";
import { countWords, plainWords } from "../parts/words";

/** The sheet of one leaver: all that stands of theirs, and what is to become of it. */
export function LeaverScreen() {
  const { past } = useStandpoint();
  const [address] = useQueryState("address", parseAsString.withDefault(""));
  const { data, error } = useQuery(asked(leaversOperations.leaver, { query: { address }, past }));
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <nav aria-label="Where this is" className="on-paper-none text-ink-soft">
        <Link href={asOf("/people/leavers", past)} className="underline">
          Leavers
        </Link>{" "}
        / {data?.leaver.name ?? address}
      </nav>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && <Sheet key={address} sheet={data} />}
    </div>
  );
}

function Sheet({ sheet }: { sheet: LeaverSheet }) {
  const { leaver, ownedCount, links, held } = sheet;
  const { viewer, past } = useStandpoint();
  const dates = useDates();
  const [owner, setOwner] = useState(sheet.heir?.address ?? "");
  const [ended, setEnded] = useState<ReadonlySet<string>>(
    () => new Set(links.filter(({ suggested }) => suggested?.suggest === "end").map(({ id }) => id)),
  );
  const isNothing = ownedCount + links.length + held === 0;
  const mayChange = viewer.mayChange && past === null;
  return (
    <div className="max-w-4xl">
      <div className="flex items-baseline gap-4">
        <h1 className="grow text-[20px] font-semibold">{leaver.name}</h1>
        <PrintButton />
      </div>
      <p>
        <span className="font-mono text-[13px]">{leaver.address}</span>
        {leaver.department && `, ${leaver.department}`}: {leaver.status}
        {leaver.leftAt !== null && ` on ${dates.day(leaver.leftAt)}`}.
      </p>
      {isNothing && (
        <Notice>Nothing is left: they own nothing, no link of theirs is live, and no grant or group has them.</Notice>
      )}
      {ownedCount > 0 && <Owned sheet={sheet} owner={owner} onOwner={mayChange ? setOwner : null} />}
      {links.length > 0 && <Links links={links} ended={ended} onEnded={mayChange ? setEnded : null} />}
      {held > 0 && (
        <section aria-label="Grants and groups" className="mt-5">
          <h2 className="text-[15px] font-semibold">Grants and groups</h2>
          <p>
            {countWords(held, "change takes", "changes take")} every grant to them, every place among the recipients of
            links, and every membership of theirs: with these they would get in again the day their account is on.
          </p>
        </section>
      )}
      {mayChange && !isNothing && (
        <Act intents={intentsOf(sheet, owner, ended)} needsOwner={ownedCount > 0 && owner === ""} />
      )}
    </div>
  );
}

/** Links are ended before what they are on is handed over, so that they don't go along. */
function intentsOf({ leaver, ownedCount, held }: LeaverSheet, owner: string, ended: ReadonlySet<string>): Intent[] {
  const { address } = leaver;
  return [
    ...[...ended].map((shareId) => ({ action: "revoke" as const, shareId })),
    ...(held > 0 ? [{ action: "cut-off" as const, address }] : []),
    ...(ownedCount > 0 && owner !== "" ? [{ action: "hand-over-all" as const, from: address, address: owner }] : []),
  ];
}

interface OwnedProps {
  sheet: LeaverSheet;
  owner: string;
  onOwner: ((address: string) => void) | null;
}

function Owned({ sheet: { owned, ownedCount, heir }, owner, onOwner }: OwnedProps) {
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
              : "They have no manager who is active here, and their department has no head: choose somebody."}{" "}
            Links on it that aren’t ended go along.
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
      {ownedCount > owned.length && <p className="text-ink-soft">The {owned.length} that lie highest are listed.</p>}
    </section>
  );
}

interface LinksProps {
  links: readonly LeaverLink[];
  ended: ReadonlySet<string>;
  onEnded: ((ids: ReadonlySet<string>) => void) | null;
}

function Links({ links, ended, onEnded }: LinksProps) {
  const { past } = useStandpoint();
  const toggle = (id: string) => {
    const after = new Set(ended);
    if (!after.delete(id)) after.add(id);
    onEnded!(after);
  };
  return (
    <section aria-label="Links they made" className="mt-5">
      <h2 className="text-[15px] font-semibold">Made {countWords(links.length, "live link")}</h2>
      {onEnded && (
        <p className="flex flex-wrap items-center gap-3 text-ink-soft">
          Marked ones are ended; the suggestion marks them to begin with.
          <Button onClick={() => onEnded(new Set(links.map(({ id }) => id)))}>Mark all</Button>
          <Button onClick={() => onEnded(new Set())}>Mark none</Button>
        </p>
      )}
      <ul className="mt-1 max-h-72 overflow-y-auto" tabIndex={0} aria-label="Links">
        {links.map(({ id, item, place, sentence, suggested }) => (
          <li key={id} className="flex gap-3 border-t border-line py-1.5">
            {onEnded && (
              <input
                type="checkbox"
                aria-label={`End the link on ${item}`}
                checked={ended.has(id)}
                onChange={() => toggle(id)}
              />
            )}
            <span className="grow">
              <Link href={asOf(`/register?share=${encodeURIComponent(id)}`, past)} className="text-verdigris underline">
                {item}
              </Link>{" "}
              <span className="text-[12px] text-ink-faint">{place.join(" / ")}</span>
              <span className="block text-[12.5px] text-ink-soft">{sentence}</span>
            </span>
            {suggested && <span className="text-ink-soft">suggested: {suggested.suggest}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Act({ intents, needsOwner }: { intents: Intent[]; needsOwner: boolean }) {
  const { stage } = useTray();
  return (
    <div className="on-paper-none mt-5 border-t border-line-strong pt-3">
      <Button look="act" disabled={stage.isPending || intents.length === 0} onClick={() => stage.mutate(intents)}>
        Stage all of it as one docket
      </Button>
      {needsOwner && <span className="ml-3 text-copper">Without a new owner, what they own stays where it is.</span>}
      <p role="status" className="mt-1 text-ink-soft">
        {stage.isSuccess && "It is in the tray, with the whole preview. Nothing happens until you apply it."}
      </p>
      {stage.error && <Notice tone="wrong">{stage.error.message}</Notice>}
    </div>
  );
}
