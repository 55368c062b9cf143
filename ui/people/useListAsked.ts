import { parseAsInteger, parseAsString, useQueryStates } from "nuqs";

/** What a list that has one order is asked for; it stands in the address. */
export function useListAsked() {
  return useQueryStates({ q: parseAsString.withDefault(""), from: parseAsInteger.withDefault(0) });
}
