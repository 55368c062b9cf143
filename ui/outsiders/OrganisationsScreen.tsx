"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { addressOf } from "@/contract/address";
import { outsidersOperations } from "@/contract/outsiders";
import { ORGANISATION_COLUMNS } from "@/core/outsiders/organisations";
import { asOf, useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { OrganisationsTable } from "./OrganisationsTable";
import { PAGE_SIZE, PeopleList } from "../people/PeopleList";
import { ORGANISATION_QUERY, REACHING } from "./queryKind";

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
    ...asked(outsidersOperations.organisations, { query: { ...query, from, count: PAGE_SIZE }, past }),
    placeholderData: keepPreviousData,
  });
  return (
    <PeopleList
      at="Organisations"
      file={addressOf(outsidersOperations.organisationsFile, { query, past })}
      kind={ORGANISATION_QUERY}
      query={q}
      found={data}
      noun={["organisation", "organisations"]}
      {...{ from, error }}
      onAsk={(asked) => void setAsked(asked)}
      none={<NoneFound isNarrowed={q !== "" && q !== REACHING} past={past} />}
    >
      <OrganisationsTable
        {...{ page: data?.page ?? [], by, reversed, past }}
        onSort={(column) => void setAsked({ by: column, reversed: column === by ? !reversed : null, from: null })}
      />
    </PeopleList>
  );
}

function NoneFound({ isNarrowed, past }: { isNarrowed: boolean; past: string | null }) {
  return (
    <p className="max-w-prose">
      {isNarrowed
        ? "No organisations match. Remove a part of the query: without reaching:yes it also finds those that reach nothing now."
        : "Nobody outside reaches anything by name. For what is open to anyone, see "}
      {!isNarrowed && (
        <a href={asOf("/register/public", past)} className="text-verdigris underline">
          what is open to anyone
        </a>
      )}
    </p>
  );
}
