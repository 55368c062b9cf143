"use client";

import { useQuery } from "@tanstack/react-query";
import { parseAsString, useQueryState } from "nuqs";
import { useState } from "react";
import { type LeaverTold, leaversOperations } from "@/contract/leavers";
import type { Intent } from "@/core/changes/intent";
import type { LeaverSheet } from "@/core/leavers/sheet";
import { useTray } from "../frame/useTray";
import { asOf, useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { LastDayPart } from "./LastDayPart";
import { type Choices, LinksPart, suggestedChoices } from "./LinksPart";
import { OwnedPart } from "./OwnedPart";
import { OwnPart } from "./OwnPart";

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
        / {data?.sheet.leaver.name ?? address}
      </nav>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && <Sheet key={address} told={data} />}
    </div>
  );
}

function Sheet({ told }: { told: LeaverTold }) {
  const { sheet, own } = told;
  const { leaver, ownedCount, links, held } = sheet;
  const { viewer, past } = useStandpoint();
  const [owner, setOwner] = useState(sheet.heir?.address ?? "");
  const [choices, setChoices] = useState<Choices>(() => suggestedChoices(links));
  const stands = ownedCount + links.length + held;
  const isNothing = stands + own.waivers + own.watches === 0;
  const mayChange = viewer.mayChange && past === null;
  return (
    <div className="max-w-4xl">
      <div className="flex items-baseline gap-4">
        <h1 className="grow text-[20px] font-semibold">{leaver.name}</h1>
        <PrintButton />
      </div>
      <Who leaver={leaver} />
      <LastDayPart leaver={leaver} set={told.lastDay} />
      {isNothing && (
        <Notice>
          Nothing is left: they own nothing, have no live links, grants or groups, and no active waivers or watches.
        </Notice>
      )}
      {ownedCount > 0 && <OwnedPart sheet={sheet} owner={owner} onOwner={mayChange ? setOwner : null} />}
      {links.length > 0 && <LinksPart links={links} choices={choices} onChoices={mayChange ? setChoices : null} />}
      {held > 0 && (
        <section aria-label="Grants and groups" className="mt-5">
          <h2 className="text-[15px] font-semibold">Grants and groups</h2>
          <p>
            {countWords(held, "change takes", "changes take")} every grant to them, every link that names them, and
            every group membership: if their account were switched on again, these would let them back in.
          </p>
        </section>
      )}
      {own.waivers + own.watches > 0 && <OwnPart address={leaver.address} own={own} />}
      {mayChange && stands > 0 && (
        <Act
          intents={intentsOf(sheet, owner, choices)}
          needsOwner={ownedCount > 0 && owner === ""}
          isHere={leaver.status === "active"}
        />
      )}
    </div>
  );
}

function Who({ leaver: { address, department, status, since } }: Pick<LeaverSheet, "leaver">) {
  const dates = useDates();
  const { past } = useStandpoint();
  return (
    <p>
      <Link
        href={asOf(`/people/person?address=${encodeURIComponent(address)}`, past)}
        className="font-mono text-[13px] text-verdigris underline"
      >
        {address}
      </Link>
      {department && `, ${department}`}: {status === "left" ? "has left" : status}
      {since !== null && `, since ${dates.day(since)}`}.
    </p>
  );
}

/** Links are seen to before what they are on is handed over, so that they don't go along as they are. */
function intentsOf({ leaver, ownedCount, held, links }: LeaverSheet, owner: string, choices: Choices): Intent[] {
  const { address } = leaver;
  return [
    ...links.flatMap(({ id, ways }): Intent[] => {
      const choice = choices.get(id);
      if (choice === "end") return [{ action: "revoke", shareId: id }];
      return ways.find(({ key }) => key === choice)?.changes ?? [];
    }),
    ...(held > 0 ? [{ action: "cut-off" as const, address }] : []),
    ...(ownedCount > 0 && owner !== "" ? [{ action: "hand-over-all" as const, from: address, address: owner }] : []),
  ];
}

interface ActProps {
  intents: Intent[];
  needsOwner: boolean;
  /** They still work here: what is applied takes from them what they may still need. */
  isHere: boolean;
}

function Act({ intents, needsOwner, isHere }: ActProps) {
  const { stage } = useTray();
  return (
    <div className="on-paper-none mt-5 border-t border-line-strong pt-3">
      <Button look="act" disabled={stage.isPending || intents.length === 0} onClick={() => stage.mutate(intents)}>
        Add all of it to the docket
      </Button>
      {needsOwner && <span className="ml-3 text-copper">Without a new owner, their items stay as they are.</span>}
      {isHere && (
        <p className="mt-1 text-copper">
          They are still active, and what you apply takes effect at once. Stage it now and apply it after their last
          day.
        </p>
      )}
      <p role="status" className="mt-1 text-ink-soft">
        {stage.isSuccess && "It’s in the tray, with its preview. Nothing happens until you apply it."}
      </p>
      {stage.error && <Notice tone="wrong">{stage.error.message}</Notice>}
    </div>
  );
}
