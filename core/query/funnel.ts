import type { Register } from "../register/register";
import type { Seconds } from "../time/instant";
import type { Choices } from "./choices";
import { type Counted, countedOf, FACETS, facet, histogram } from "./facets";
import { type FieldName, MOMENT_NAMES } from "./fields";
import type { Funnel } from "./page";
import type { Term } from "./query";
import type { FlagsOfPhrase, Selector, Slots } from "./select";

/**
 * Counts of all facets for a query, each as if the query didn't ask about its own field. The shares are gone over once
 * for each term; what profiles tell is counted from them.
 * @param flags of every phrase among the terms
 */
export function funnelOf(
  { register, choices, selector }: { register: Register; choices: Choices; selector: Selector },
  asked: readonly Term[],
  t: Seconds,
  flags: FlagsOfPhrase,
): Funnel {
  const terms = selector.inFull(asked);
  const ofProfiles = terms.filter((term) => selector.isOfProfile(term));
  const others = terms.filter((term) => !selector.isOfProfile(term));
  const meeting = (left: FieldName | null) =>
    selector.profilesMeeting(ofProfiles.filter((term) => term.field !== left));
  const meetingAll = meeting(null);
  const isAsked = new Set<FieldName>(ofProfiles.map((term) => term.field));

  const { met, failing } = selector.part(others, t, flags);
  const { profiles } = countedOf(register, met);
  const within = (slots: Slots, to?: Slots) =>
    ofProfiles.length === 0 ? slots : selector.withProfiles(slots, meetingAll, to);
  const found = within(met);
  const common: Counted = { parts: [found], profiles: amongThese(profiles, meetingAll) };
  const but = (field: FieldName): Counted => {
    if (isAsked.has(field)) return { parts: [], profiles: amongThese(profiles, meeting(field)) };
    const failed = failing.get(field);
    return failed ? { parts: [found, ...failed.map((part) => within(part, part))], profiles } : common;
  };
  return {
    facets: FACETS.map((field) => facet(choices, but(field), field)),
    histograms: MOMENT_NAMES.map((field) => histogram(register, but(field), field, t)),
  };
}

/** @param meets by profile: 1 where those who have it count */
function amongThese(profiles: Uint32Array, meets: Uint8Array): Uint32Array {
  return profiles.map((count, profile) => count * meets[profile]);
}
