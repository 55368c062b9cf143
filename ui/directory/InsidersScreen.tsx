"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { addressOf } from "@/contract/address";
import { directoryOperations } from "@/contract/directory";
import { INSIDER_COLUMNS } from "@/core/directory/insiders";
import { useStandpoint } from "../frame/viewer";
import { PeopleTabs } from "../outsiders/PeopleTabs";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { Pages } from "../parts/Pages";
import { QueryBar } from "../query/QueryBar";
import { countWords } from "../parts/words";
import { INSIDER_QUERY } from "./queryKind";
import { InsidersTable } from "./InsidersTable";

const PAGE = 100;

/** What the list is asked for stands in the address. */
function useAsked() {
  return useQueryStates({
    q: parseAsString.withDefault(""),
    by: parseAsStringLiteral(INSIDER_COLUMNS).withDefault("name"),
    reversed: parseAsBoolean.withDefault(false),
    from: parseAsInteger.withDefault(0),
  });
}

/** Everybody who works here, or has, and who tells of them. */
export function InsidersScreen() {
  const { past } = useStandpoint();
  const [{ q, by, reversed, from }, setAsked] = useAsked();
  const query = { q, by, reversed: reversed ? ("yes" as const) : ("no" as const) };
  const { data, error } = useQuery({
    ...asked(directoryOperations.insiders, { query: { ...query, from, count: PAGE }, past }),
    placeholderData: keepPreviousData,
  });
  const { data: known } = useQuery(asked(directoryOperations.sources));
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="px-6 pt-4">
        <div className="flex items-baseline gap-4">
          <h1 className="grow text-[20px] font-semibold">People</h1>
          <a
            href={addressOf(directoryOperations.insidersFile, { query, past })}
            className="text-verdigris underline"
            download
          >
            As CSV
          </a>
        </div>
        <PeopleTabs at="Insiders" />
      </header>
      <QueryBar
        kind={INSIDER_QUERY}
        query={q}
        problems={data?.problems ?? []}
        past={past}
        onQuery={(query) => void setAsked({ q: query || null, from: null })}
      >
        <p role="status" className="text-ink-soft">
          {data && countWords(data.found, "person", "people")}
        </p>
      </QueryBar>
      <div className="min-h-0 grow overflow-auto px-6 pb-4" tabIndex={0} aria-busy={!data && !error}>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!data && !error && <Loading />}
        {data?.found === 0 && (
          <p className="max-w-prose">
            {data.total === 0
              ? "Nobody with an address at a home domain is known yet."
              : "Nobody is like that. Take a part out of the query."}
          </p>
        )}
        {data && data.found > 0 && (
          <>
            <InsidersTable
              {...{ page: data.page, by, reversed, sources: known?.sources }}
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
