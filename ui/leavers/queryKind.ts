import { LEAVER_FIELDS } from "@/core/leavers/asking";
import type { QueryKind } from "../query/kind";

/** What the list of leavers can be asked. */
export const LEAVER_QUERY: QueryKind = {
  fields: LEAVER_FIELDS,
  examples: [
    ["lastday:<14d", "who leaves within 14 days"],
    ["since:>30d links:>0", "who left more than 30 days ago and still has live links"],
    ["status:suspended", "who is suspended"],
    ["department:touring owns:>10", "of one department, with many items"],
  ],
  wordsIn: "names, addresses and departments",
};
