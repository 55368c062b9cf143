"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { addressOf } from "@/contract/address";
import { directoryOperations } from "@/contract/directory";
import { INSIDER_COLUMNS, NO_SOURCE } from "@/core/directory/insiders";
import { PERSON_STATES } from "@/core/estate/records";
import { useStandpoint } from "../frame/viewer";
import { PeopleTabs } from "../outsiders/PeopleTabs";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { Pages } from "../parts/Pages";
import { countWords, plainWords } from "../parts/words";
import { InsidersTable } from "./InsidersTable";

const PAGE = 100;
const SELECT = "h-[30px] rounded-[3px] border border-control bg-raised px-2";

/** What the list is asked for stands in the address. */
function useAsked() {
  return useQueryStates({
    q: parseAsString.withDefault(""),
    status: parseAsStringLiteral(PERSON_STATES),
    source: parseAsString,
    by: parseAsStringLiteral(INSIDER_COLUMNS).withDefault("name"),
    reversed: parseAsBoolean.withDefault(false),
    from: parseAsInteger.withDefault(0),
  });
}

/** Everybody who works here, or has, and who tells of them. */
export function InsidersScreen() {
  const { past } = useStandpoint();
  const [{ q, status, source, by, reversed, from }, setAsked] = useAsked();
  const query = {
    ...{ q, by, reversed: reversed ? ("yes" as const) : ("no" as const) },
    ...(status && { status }),
    ...(source && { source }),
  };
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
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2 py-3">
          <input
            type="search"
            aria-label="A part of the name, the address or the department"
            placeholder="name, address or department"
            value={q}
            onChange={(event) => void setAsked({ q: event.target.value || null, from: null })}
            className="h-[30px] w-72 rounded-[3px] border border-control bg-raised px-2.5"
          />
          <label className="flex items-center gap-1.5">
            <span className="text-ink-soft">Status</span>
            <select
              value={status ?? ""}
              onChange={(event) => void setAsked({ status: (event.target.value || null) as typeof status, from: null })}
              className={SELECT}
            >
              <option value="">any</option>
              {PERSON_STATES.map((one) => (
                <option key={one} value={one}>
                  {plainWords(one).toLowerCase()}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-1.5">
            <span className="text-ink-soft">Told by</span>
            <select
              value={source ?? ""}
              onChange={(event) => void setAsked({ source: event.target.value || null, from: null })}
              className={SELECT}
            >
              <option value="">anybody</option>
              {known?.sources.map(({ name, title }) => (
                <option key={name} value={name}>
                  {title}
                </option>
              ))}
              <option value={NO_SOURCE}>nobody: an address alone</option>
            </select>
          </label>
          <p role="status" className="text-ink-soft">
            {data && countWords(data.found, "person", "people")}
          </p>
        </div>
      </header>
      <div className="min-h-0 grow overflow-auto px-6 pb-4" tabIndex={0} aria-busy={!data && !error}>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!data && !error && <Loading />}
        {data?.found === 0 && (
          <p className="max-w-prose">
            {data.total === 0
              ? "Nobody with an address at a home domain is known yet."
              : "Nobody is like that. Clear the search, or choose another status or source."}
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
