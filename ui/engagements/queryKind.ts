import { ENGAGEMENT_FIELDS } from "@/core/engagements/asking";
import type { QueryKind } from "../query/kind";

/** What the list of projects can be asked. */
export const ENGAGEMENT_QUERY: QueryKind = {
  fields: ENGAGEMENT_FIELDS,
  examples: [
    ["state:running ends:<30d", "what ends within 30 days"],
    ["state:over shares:>0", "what is over and still shares something"],
    ["organisation:printers.example", "all work with one organisation"],
    ["answers:none state:running", "what nobody here answers for"],
  ],
  wordsIn: "names, organisations and who answers",
};
