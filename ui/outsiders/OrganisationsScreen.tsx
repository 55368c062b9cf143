"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { addressOf } from "@/contract/address";
import { outsidersOperations } from "@/contract/outsiders";
import { ORGANISATION_COLUMNS } from "@/core/outsiders/organisations";
import { asOf, useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { Pages } from "../parts/Pages";
import { QueryBar } from "../query/QueryBar";
import { countWords } from "../parts/words";
import { OrganisationsTable } from "./OrganisationsTable";
import { PeopleTabs } from "./PeopleTabs";
import { ORGANISATION_QUERY, REACHING } from "./queryKind";

const PAGE = 100;

/** What the list is asked for stands in the address. */
function useAsked() {
  return useQueryStates({
    q: parseAsString.withDefault(REACHING),
    by: parseAsStringLiteral(ORGANISATION_COLUMNS).withDefault("sensitive"),
    reversed: parseAsBoolean.withDefault(false),
    from: parseAsInteger.withDefault(0),
  });
}

/** Who outside reaches what, firm by firm. */
export function OrganisationsScreen() {
  const { past } = useStandpoint();
  const [{ q, by, reversed, from }, setAsked] = useAsked();
  const query = { q, by, reversed: reversed ? ("yes" as const) : ("no" as const) };
  const { data, error } = useQuery({
    ...asked(outsidersOperations.organisations, { query: { ...query, from, count: PAGE }, past }),
    placeholderData: keepPreviousData,
  });
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="px-6 pt-4">
        <div className="flex items-baseline gap-4">
          <h1 className="grow text-[20px] font-semibold">People</h1>
          <a
            href={addressOf(outsidersOperations.organisationsFile, { query, past })}
            className="text-verdigris underline"
            download
          >
            As CSV
          </a>
        </div>
        <PeopleTabs at="Organisations" />
      </header>
      <QueryBar
        kind={ORGANISATION_QUERY}
        query={q}
        problems={data?.problems ?? []}
        past={past}
        onQuery={(query) => void setAsked({ q: query, from: null })}
      >
        <p role="status" className="text-ink-soft">
          {data && countWords(data.found, "organisation")}
        </p>
      </QueryBar>
      <div className="min-h-0 grow overflow-auto px-6 pb-4" tabIndex={0} aria-busy={!data && !error}>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!data && !error && <Loading />}
        {data && data.found === 0 && <NoneFound isNarrowed={q !== "" && q !== REACHING} past={past} />}
        {data && data.found > 0 && (
          <>
            <OrganisationsTable
              page={data.page}
              by={by}
              reversed={reversed}
              past={past}
              onSort={(column) => void setAsked({ by: column, reversed: column === by ? !reversed : null, from: null })}
            />
            <Pages
              {...{ from, size: PAGE, shown: data.page.length, found: data.found }}
              onGo={(to) => void setAsked({ from: to || null })}
            />
          </>
        )}
      </div>
    </div>
  );
}

function NoneFound({ isNarrowed, past }: { isNarrowed: boolean; past: string | null }) {
  return (
    <p className="max-w-prose">
      {isNarrowed
        ? "No organisation is like that. Take a part out of the query: without reaching:yes it also finds those that reach nothing now."
        : "Nobody outside reaches anything by name. What is open to anyone stands in "}
      {!isNarrowed && (
        <a href={asOf("/register/public", past)} className="text-verdigris underline">
          what is open to anyone
        </a>
      )}
    </p>
  );
}
