import { registerOperations } from "@/contract/register";
import { type ChoiceName, FIELDS } from "@/core/query/fields";
import { ask, keyOf } from "../parts/ask";
import type { QueryKind } from "../query/kind";

/** What the register can be asked. */
export const REGISTER_QUERY: QueryKind = {
  fields: FIELDS,
  examples: [
    ["reach:open -used:<45d", "open links nobody used in the last 45 days"],
    ["itinerary,poster label:confidential", "either of two words, and a label"],
    ['maker:"imre.varga@wrenmoor.example"', "in quotes: exactly this value; without: any part of it"],
    ["ends:>=2026-12-01 ends:<2027-01-01", "from one day until before another"],
    ["organisation:none items:>100", "no value in a field; a count"],
  ],
  wordsIn: "names, places, people and addresses",
  values: {
    key: keyOf(registerOperations.values),
    async ask({ field, text, past, signal }) {
      const query = { field: field as ChoiceName, text };
      return (await ask(registerOperations.values, { query, past, signal })).values;
    },
  },
};
