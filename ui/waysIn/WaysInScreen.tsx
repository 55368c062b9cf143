"use client";

import { useQuery } from "@tanstack/react-query";
import { parseAsBoolean, parseAsString, useQueryState, useQueryStates } from "nuqs";
import { waysInOperations } from "@/contract/waysIn";
import type { ReachWays, Ways } from "@/core/access/ways";
import { asOf, useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { ask, keyOf } from "../parts/ask";
import { Notice } from "../parts/Notice";
import { CheapestCutPanel } from "./CheapestCutPanel";
import { Finder, type Subject } from "../parts/Finder";
import { ItemReached } from "./ItemReached";
import { MostExposed } from "./MostExposed";
import { PathList } from "./PathList";
import { ReachedItems } from "./ReachedItems";
import { type Whole, WholeActions } from "./WholeActions";

/** Who reaches this, and how; what this one reaches, and how. */
export function WaysInScreen() {
  const { past } = useStandpoint();
  const [asked, setAsked] = useQueryStates({ item: parseAsString, person: parseAsString, organisation: parseAsString });
  const [below, setBelow] = useQueryState("below", parseAsBoolean.withDefault(false));
  const given = Object.entries(asked).filter(([, value]) => value !== null) as [string, string][];
  const { data, error } = useQuery({
    queryKey: [...keyOf(waysInOperations.waysIn), asked, past],
    queryFn: ({ signal }) => ask(waysInOperations.waysIn, { query: asked, past, signal }),
    enabled: given.length > 0,
  });
  const onWho = (who: Subject | null) =>
    void setAsked({
      person: who?.kind === "person" ? who.id : null,
      organisation: who?.kind === "organisation" ? who.id : null,
    });
  const onItem = (item: Subject | null) => void setAsked({ item: item?.id ?? null });
  const who = asked.person
    ? { person: asked.person }
    : asked.organisation
      ? { organisation: asked.organisation }
      : null;
  const cut = asked.item && who && (
    <CheapestCutPanel item={asked.item} who={who} below={below} onBelow={(wanted) => void setBelow(wanted || null)} />
  );
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="border-b border-line-strong bg-surface px-5 py-4">
        <h1 className="flex flex-wrap items-center gap-x-3 gap-y-2 text-[19px] font-semibold">
          How does
          <Finder
            label="Who"
            placeholder="anybody"
            kinds={["person", "organisation"]}
            value={whoName(data) ?? asked.person ?? asked.organisation ?? ""}
            onPick={onWho}
          />
          reach
          <Finder
            label="What"
            placeholder="anything"
            kinds={["item"]}
            value={itemName(data) ?? asked.item ?? ""}
            onPick={onItem}
          />
          ?
          {given.length > 0 && (
            <Link
              href={asOf(`/trail?${new URLSearchParams(given)}`, past)}
              className="ml-auto text-[13.5px] font-normal text-verdigris underline"
            >
              What happened, on the trail
            </Link>
          )}
        </h1>
      </header>
      <div className="min-h-0 grow overflow-y-auto px-5 py-4">
        {error ? (
          <Notice tone="wrong">{error.message}</Notice>
        ) : given.length === 0 ? (
          <>
            <Notice>
              Choose an item to see everybody who reaches it, a person or an organisation to see everything they reach,
              or both to see every way in and what would close them.
            </Notice>
            <MostExposed onPick={(subject) => (subject.kind === "item" ? onItem(subject) : onWho(subject))} />
          </>
        ) : data?.kind === "item" ? (
          <>
            {data.organisation === null && (
              <WholeActions whole={{ kind: "item", id: data.item.id, name: data.item.name }} />
            )}
            {cut}
            <ItemReached ways={data} onPerson={(address) => void setAsked({ person: address, organisation: null })} />
          </>
        ) : data?.kind === "reach" ? (
          <>
            <WholeActions whole={wholeOf(data)} />
            <ReachedItems
              ways={data}
              onItem={(id) => void setAsked({ item: id })}
              onPerson={(address) => void setAsked({ person: address, organisation: null })}
            />
          </>
        ) : data ? (
          <>
            <PathList ways={data} />
            <div className="mt-5">{cut}</div>
          </>
        ) : (
          <Loading />
        )}
      </div>
    </div>
  );
}

function wholeOf({ who }: ReachWays): Whole {
  return "address" in who
    ? { kind: "person", address: who.address, name: who.name, insider: who.insider }
    : { kind: "organisation", organisation: who.organisation };
}

function itemName(ways: Ways | undefined): string | undefined {
  return ways && ways.kind !== "reach" ? ways.item.name : undefined;
}

function whoName(ways: Ways | undefined): string | undefined {
  if (ways?.kind === "paths") return ways.person.name;
  if (ways?.kind === "item") return ways.organisation ?? undefined;
  if (ways?.kind !== "reach") return undefined;
  return "address" in ways.who ? ways.who.name : ways.who.organisation;
}
