"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { addressOf } from "@/contract/address";
import { outsidersOperations } from "@/contract/outsiders";
import { STANCES } from "@/core/estate/records";
import { ORGANISATION_COLUMNS } from "@/core/outsiders/organisations";
import { asOf, useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { Pages } from "../parts/Pages";
import { countWords } from "../parts/words";
import { OrganisationsTable } from "./OrganisationsTable";
import { PeopleTabs } from "./PeopleTabs";
import { STANCE_WORDS } from "./words";

const PAGE = 100;
const STANCE_CHOICES = [...STANCES, "none"] as const;

/** What the list is asked for stands in the address. */
function useAsked() {
  return useQueryStates({
    q: parseAsString.withDefault(""),
    stance: parseAsStringLiteral(STANCE_CHOICES),
    by: parseAsStringLiteral(ORGANISATION_COLUMNS).withDefault("sensitive"),
    reversed: parseAsBoolean.withDefault(false),
    all: parseAsBoolean.withDefault(false),
    from: parseAsInteger.withDefault(0),
  });
}

/** Who outside reaches what, firm by firm. */
export function OrganisationsScreen() {
  const { past } = useStandpoint();
  const [{ q, stance, by, reversed, all, from }, setAsked] = useAsked();
  const query = {
    ...{ q, by, reversed: reversed ? ("yes" as const) : ("no" as const) },
    ...(stance && { stance }),
    ...(!all && { reaching: "yes" as const }),
  };
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
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2 py-3">
          <input
            type="search"
            aria-label="A part of the domain"
            placeholder="a part of the domain"
            value={q}
            onChange={(event) => void setAsked({ q: event.target.value || null, from: null })}
            className="h-[30px] w-64 rounded-[3px] border border-control bg-raised px-2.5"
          />
          <label className="flex items-center gap-1.5">
            <span className="text-ink-soft">Stance</span>
            <select
              value={stance ?? ""}
              onChange={(event) => void setAsked({ stance: (event.target.value || null) as typeof stance, from: null })}
              className="h-[30px] rounded-[3px] border border-control bg-raised px-2"
            >
              <option value="">any</option>
              {STANCES.map((one) => (
                <option key={one} value={one}>
                  {STANCE_WORDS[one]}
                </option>
              ))}
              <option value="none">none</option>
            </select>
          </label>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={all}
              onChange={(event) => void setAsked({ all: event.target.checked || null, from: null })}
            />
            Also those that reach nothing now
          </label>
          <p role="status" className="text-ink-soft">
            {data && countWords(data.found, "organisation")}
          </p>
        </div>
      </header>
      <div className="min-h-0 grow overflow-auto px-6 pb-4" tabIndex={0} aria-busy={!data && !error}>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!data && !error && <Loading />}
        {data && data.found === 0 && <NoneFound isNarrowed={q !== "" || stance !== null} past={past} />}
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
        ? "No organisation is like that. Clear the search, choose another stance, or look also at those that reach nothing now."
        : "Nobody outside reaches anything by name. What is open to anyone stands in "}
      {!isNarrowed && (
        <a href={asOf("/register/public", past)} className="text-verdigris underline">
          what is open to anyone
        </a>
      )}
    </p>
  );
}
