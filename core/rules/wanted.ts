import type { Change } from "../changes/change";
import type { Stance } from "../estate/records";
import type { Person } from "../estate/principals";
import { countWords } from "../text/words";
import { DAY, rfc3339 } from "../time/instant";
import type { Judged, Moment } from "./judged";

/** What would end a finding, before it is known whether its store can do it. */
export interface Wanted {
  words: string;
  changes: readonly Change[];
  /** What whoever stages it may choose otherwise: another end than the one that stands in it; or has to: for whom; or what is done by a round. */
  asks?: "end" | "addresses" | "round";
  /** Why the store can't do it as it is here. */
  orElse?: Wanted;
}

const MOST_PEOPLE = 20;
/** The furthest end that a rule sets. */
const LONGEST_END_DAYS = 30;
/** Stands for addresses still to be named. */
const SOMEBODY = ["somebody@outside.example"];

export function givePassword({ share }: Judged, words = "Give it a password"): Wanted {
  const replace = share.hasPassword && { replace: true as const };
  return { words, changes: [{ action: "set-password", shareId: share.id, ...replace }] };
}

/** Not a change: whoever owns it is asked. */
export function askInRound(): Wanted {
  return { words: "Ask its owner in a round of one", changes: [], asks: "round" };
}

export function lowerRole({ share }: Judged, role: "view" | "edit", words: string): Wanted {
  return { words, changes: [{ action: "set-role", shareId: share.id, role }] };
}

export function blockDownload({ share }: Judged): Wanted {
  return { words: "Block downloads", changes: [{ action: "block-download", shareId: share.id }] };
}

export function makeNamed({ share }: Judged): Wanted {
  const narrow: Change = { action: "narrow", shareId: share.id, addresses: SOMEBODY };
  return { words: "Limit it to named people", changes: [narrow], asks: "addresses" };
}

/** An end as late as the rule allows. Where the store can't keep one, or needs more notice, we end it ourselves. */
export function giveEnd({ share }: Judged, { t }: Moment, maxDays: number): Wanted {
  const days = Math.min(maxDays, LONGEST_END_DAYS);
  const on = rfc3339(t + Math.max(Math.floor(days * DAY), 1));
  return {
    words: "Give it an end date",
    changes: [{ action: "set-expiry", shareId: share.id, expiresAt: on }],
    asks: "end",
    orElse: {
      words: "Have it revoked on a day",
      changes: [{ action: "order-revoke", shareId: share.id, on }],
      asks: "end",
    },
  };
}

/** Removes a few outsiders from a named link or from the group. */
export function without({ share }: Judged, { estate }: Moment, isMeant: (person: Person) => boolean): Wanted[] {
  const people = [...share.outsiders].map((index) => estate.people[index]).filter(isMeant);
  const who = people.length === 1 ? people[0].address : countWords(people.length, "person", "people");
  if (people.length === 0 || people.length > MOST_PEOPLE) return [];
  if (share.isLink && share.reach === "named") {
    const changes = people.map(({ address }): Change => ({ action: "drop-recipient", shareId: share.id, address }));
    return [{ words: `Remove ${who} from it`, changes }];
  }
  if (share.group < 0) return [];
  const { id, name } = estate.principals.groups[share.group];
  // Anyone who is also in it through another group would still be in it.
  const stays = ({ index }: Person) => estate.principals.groupsOf(index, new Set([share.group])).has(share.group);
  if (people.some(stays)) return [];
  const changes = people.map(({ address }): Change => ({ action: "leave-group", groupId: id, address }));
  return [{ words: `Remove ${who} from the group ${name}`, changes }];
}

export function withoutStance(judged: Judged, moment: Moment, stance: Stance): Wanted[] {
  return without(judged, moment, (person) => moment.stanceOf(person) === stance);
}
