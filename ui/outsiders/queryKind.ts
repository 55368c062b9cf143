import { ORGANISATION_FIELDS } from "@/core/outsiders/asking";
import type { QueryKind } from "../query/kind";

/** What the list of organisations can be asked. */
export const ORGANISATION_QUERY: QueryKind = {
  fields: ORGANISATION_FIELDS,
  examples: [
    ["reaching:yes restricted:>0", "whose people reach something restricted"],
    ["stance:none used:<30d", "no stance, and used in the last 30 days"],
    ["quay -stance:trusted", "a word in the domain, and not trusted"],
    ["provider:yes stance:none", "common mailbox providers that nobody has confirmed"],
    ["since:<2026-01-01 -used:<90d", "given access before this year, and not used for 90 days"],
  ],
  wordsIn: "the domain",
};

/** What is asked as long as nobody asks for something else. */
export const REACHING = "reaching:yes";
