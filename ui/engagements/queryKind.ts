import { ENGAGEMENT_FIELDS } from "@/core/engagements/asking";
import type { QueryKind } from "../query/kind";

/** What the list of projects can be asked. */
export const ENGAGEMENT_QUERY: QueryKind = {
  fields: ENGAGEMENT_FIELDS,
  examples: [
    ["state:running ends:<30d", "what ends within 30 days"],
    ["state:over shares:>0", "projects that are over but still share something"],
    ["organisation:printers.example", "all work with one organisation"],
    ["answers:none state:running", "with nobody responsible"],
  ],
  wordsIn: "names, organisations and people responsible",
};
