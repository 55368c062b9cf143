"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { addressOf } from "@/contract/address";
import { directoryOperations } from "@/contract/directory";
import { INSIDER_COLUMNS } from "@/core/directory/insiders";
import { useStandpoint } from "../frame/viewer";
import { PAGE_SIZE, PeopleList } from "../people/PeopleList";
import { asked } from "../parts/ask";
import { INSIDER_QUERY } from "./queryKind";
import { InsidersTable } from "./InsidersTable";

/** The list's query is in the address. */
function useAsked() {
  return useQueryStates({
    q: parseAsString.withDefault(""),
    by: parseAsStringLiteral(INSIDER_COLUMNS).withDefault("name"),
    reversed: parseAsBoolean.withDefault(false),
    from: parseAsInteger.withDefault(0),
  });
}

/** Everybody who works here or has, with the sources that know them. */
export function InsidersScreen() {
  const { past } = useStandpoint();
  const [{ q, by, reversed, from }, setAsked] = useAsked();
  const query = { q, by, reversed: reversed ? ("yes" as const) : ("no" as const) };
  const { data, error } = useQuery({
    ...asked(directoryOperations.insiders, { query: { ...query, from, count: PAGE_SIZE }, past }),
    placeholderData: keepPreviousData,
  });
  const { data: known } = useQuery(asked(directoryOperations.sources));
  return (
    <PeopleList
      at="Insiders"
      file={addressOf(directoryOperations.insidersFile, { query, past })}
      kind={INSIDER_QUERY}
      query={q}
      found={data}
      noun={["person", "people"]}
      {...{ from, error }}
      onAsk={(asked) => void setAsked(asked)}
      none={
        <p className="max-w-prose">
          {data?.total === 0
            ? "Nobody with an address at a home domain is known yet."
            : "No matches. Remove a part of the query."}
        </p>
      }
    >
      <InsidersTable
        {...{ page: data?.page ?? [], by, reversed, sources: known?.sources }}
        onSort={(column) => void setAsked({ by: column, reversed: column === by ? !reversed : null, from: null })}
      />
    </PeopleList>
  );
}
