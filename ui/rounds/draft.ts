import { parseAsArrayOf, parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral } from "nuqs";
import { KEPT_DAYS } from "@/core/advice/kept";
import { DECIDERS } from "@/core/rounds/decider";
import { CARRYING, QUESTIONS, type RoundAsked, UNDECIDED } from "@/core/rounds/round";
import { rfc3339, type Seconds } from "@/core/time/instant";

/** What a round is made of, as it stands in the address: whoever goes away and comes back finds it again. */
export const DRAFT = {
  q: parseAsString.withDefault("reach:open label:confidential,restricted state:live"),
  name: parseAsString.withDefault(""),
  note: parseAsString.withDefault(""),
  order: parseAsArrayOf(parseAsStringLiteral(DECIDERS)).withDefault(["owner", "space-owner", "manager"]),
  named: parseAsString.withDefault(""),
  by: parseAsStringLiteral(QUESTIONS).withDefault("share"),
  undecided: parseAsStringLiteral(UNDECIDED).withDefault("end-date"),
  days: parseAsInteger.withDefault(30),
  carry: parseAsStringLiteral(CARRYING).withDefault("finished"),
  limit: parseAsInteger.withDefault(KEPT_DAYS),
  managers: parseAsBoolean.withDefault(false),
  repeat: parseAsString.withDefault(""),
};

export interface Draft {
  q: string;
  name: string;
  note: string;
  order: RoundAsked["order"];
  named: string;
  by: RoundAsked["by"];
  undecided: RoundAsked["undecided"];
  days: number;
  carry: RoundAsked["carriedOut"];
  limit: number;
  managers: boolean;
  repeat: string;
}

/** A draft as it is sent. */
export function roundFrom(draft: Draft, opens: Seconds, closes: Seconds, zone: string): RoundAsked {
  return {
    ...{ name: draft.name, note: draft.note, query: draft.q },
    ...{ order: draft.order, named: draft.order.includes("named") ? draft.named : null, by: draft.by },
    ...{ opens: rfc3339(opens), closes: rfc3339(closes), limitDays: draft.limit },
    ...{ undecided: draft.undecided, undecidedDays: draft.days, carriedOut: draft.carry },
    ...{ tellManagers: draft.managers, repeat: draft.repeat === "" ? null : draft.repeat, zone },
  };
}

/** How often a round can be held again without a rule of one's own: RFC 5545's rules, by what they are called. */
export const REPEATS: readonly (readonly [rule: string, words: string])[] = [
  ["", "once"],
  ["FREQ=MONTHLY;INTERVAL=3;COUNT=8", "every 3 months, for 2 years"],
  ["FREQ=MONTHLY;INTERVAL=6;COUNT=6", "every 6 months, for 3 years"],
  ["FREQ=MONTHLY;INTERVAL=6;BYDAY=1MO;COUNT=6", "every 6 months on the first Monday, for 3 years"],
  ["FREQ=YEARLY;COUNT=5", "every year, for 5 years"],
];
