"use client";

import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { estateOperations } from "@/contract/estate";
import { peopleOperations } from "@/contract/people";
import { storesOperations } from "@/contract/stores";
import { FirstLook } from "../desk/FirstLook";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { countWords } from "../parts/words";
import { HomePart } from "./HomePart";

export function SetUpScreen() {
  return useStandpoint().past === null ? <SetUpNow /> : <OfNow />;
}

/** From an empty house to a judged estate, step by step; each says whether it is done. */
function SetUpNow() {
  const { viewer } = useStandpoint();
  const home = useQuery(asked(estateOperations.home));
  const stores = useQuery(asked(storesOperations.storesTold));
  const accounts = useQuery(asked(peopleOperations.accounts));
  const channels = useQuery({ ...asked(estateOperations.channels), enabled: viewer.mayChange });
  const error = home.error ?? stores.error ?? accounts.error ?? channels.error;
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!home.data || !stores.data || !accounts.data) return <Loading className="p-6" />;
  const known = stores.data.stores;
  const administrators = accounts.data.accounts.filter(({ role }) => role === "administrator").length;
  return (
    <div className="relative h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0}>
      <h1 className="text-[20px] font-semibold">Set up</h1>
      <ol className="mt-2 max-w-4xl">
        <Step title="Create the first administrator" isDone>
          That is you, {viewer.name}.
        </Step>
        <Step title="Say who your own people are" isDone={home.data.domains.length > 0}>
          {viewer.mayChange && <HomePart isStep />}
        </Step>
        <Step title="Connect a store, or import a report" isDone={known.length > 0}>
          {known.length > 0 && (
            <p>
              {countWords(known.length, "store")} known: {known.map(({ name }) => name).join(", ")}.
            </p>
          )}
          <Ways
            ways={[
              ["Connect a store", "/estate"],
              ["Import a report that a store exported", "/estate/imports/new"],
              ["Read a list of people", "/estate/directory"],
            ]}
          />
        </Step>
        <Step title="See what was found" isDone={known.some(({ records }) => records > 0)}>
          {known.length > 0 ? <FirstLook /> : <p className="text-ink-soft">This shows once a store is known.</p>}
          {known.length > 0 && (
            <Ways
              ways={[
                ["Where to start", "/desk/shortlist"],
                ["The Desk", "/desk"],
              ]}
            />
          )}
        </Step>
        <Step title="Let others in, and let mail out" isDone={administrators > 1 && channels.data?.mail != null}>
          <p>
            {administrators > 1
              ? `${countWords(administrators, "administrator")} can sign in.`
              : "You are the only administrator. A second one can approve changes, and let you in again."}{" "}
            {channels.data?.mail ? "Mail is set up." : "No mail is sent before its server is set."}
          </p>
          <Ways
            ways={[
              ["Who signs in", "/estate/accounts"],
              ["Messages", "/estate/messages"],
              ["Labels", "/estate/labels"],
              ["Parties", "/estate/parties"],
            ]}
          />
        </Step>
      </ol>
    </div>
  );
}

function Step({ title, isDone, children }: { title: string; isDone: boolean; children: ReactNode }) {
  return (
    <li className="grid grid-cols-[70px_minmax(0,1fr)] border-t border-line py-3">
      <span className={isDone ? "pt-0.5 text-verdigris" : "pt-0.5 text-ink-faint"}>{isDone ? "Done" : "To do"}</span>
      <div>
        <h2 className="text-[16px] font-semibold">{title}</h2>
        {children}
      </div>
    </li>
  );
}

function Ways({ ways }: { ways: readonly (readonly [words: string, path: `/${string}`])[] }) {
  return (
    <p className="mt-1 flex flex-wrap gap-x-5">
      {ways.map(([words, path]) => (
        <Link key={path} href={path} className="text-verdigris underline">
          {words}
        </Link>
      ))}
    </p>
  );
}
