import type { Change } from "../dockets/change";
import { verdictOn } from "../dockets/verdict";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { DAY, rfc3339, type Seconds } from "../time/instant";
import type { RuleId } from "./catalogue";
import { LATCH_OF_RULE } from "./latches";
import { stanceOf } from "./parties";
import type { Stance } from "../estate/records";

/** Something that would end a finding: what to stage, or why that can't be done in this store. */
export interface Remedy {
  words: string;
  /** An end date still has to be chosen: what stands here only says that one can be set. */
  change: Change;
  why: string | null;
}

const MOST_PEOPLE = 3;

/** What ends a finding on a share, the mildest first; the last is always to end the share. */
export function remediesFor(rule: RuleId, estate: Estate, share: Share, t: Seconds): Remedy[] {
  const shareId = share.id;
  const remedies: { words: string; change: Change }[] = [];
  if (LATCH_OF_RULE[rule] === "expiry")
    remedies.push({
      words: "Give it an end date",
      change: { action: "set-expiry", shareId, expiresAt: rfc3339(t + 30 * DAY) },
    });
  const stance = rule === "party-denied" ? "denied" : rule === "personal-mailbox" ? "personal" : null;
  if (stance) remedies.push(...withoutPeople(estate, share, stance));
  remedies.push({
    words: share.isLink ? "Revoke the link" : "Take the right back",
    change: { action: "revoke", shareId },
  });
  return remedies.map(({ words, change }) => {
    const verdict = verdictOn(estate, change, t);
    return { words, change, why: verdict.can ? null : verdict.why };
  });
}

/** Takes the people of a party off a named link, or out of the group, where they are few. */
function withoutPeople(estate: Estate, share: Share, stance: Stance): { words: string; change: Change }[] {
  const people = [...share.outsiders]
    .map((index) => estate.people[index])
    .filter((one) => stanceOf(estate, one) === stance);
  if (people.length > MOST_PEOPLE) return [];
  if (share.isLink && share.reach === "named")
    return people.map(({ address }) => ({
      words: `Take ${address} off it`,
      change: { action: "drop-recipient", shareId: share.id, address },
    }));
  if (share.group < 0) return [];
  const { id, name } = estate.principals.groups[share.group];
  return people
    .filter(({ index }) => estate.principals.directPeople(share.group).has(index))
    .map(({ address }) => ({
      words: `Take ${address} out of the group ${name}`,
      change: { action: "leave-group", groupId: id, address },
    }));
}
