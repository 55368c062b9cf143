import { INSIDER_FIELDS } from "@/core/directory/asking";
import type { QueryKind } from "../query/kind";

/** What the list of insiders can be asked. */
export const INSIDER_QUERY: QueryKind = {
  fields: INSIDER_FIELDS,
  examples: [
    ["status:left,suspended department:touring", "who has left or is suspended, in one department"],
    ["lastday:<30d", "who leaves within 30 days"],
    ["manager:none status:active", "who has no manager"],
    ["source:none", "known only by an address, from a share or an event"],
    ['-source:"personnel" status:active', "who works here and isn’t in the directory"],
  ],
  wordsIn: "names, addresses and departments",
};
