import { isLiveSlot } from "../access/live";
import type { Estate } from "../estate/estate";
import type { Person } from "../estate/principals";
import { byText } from "../text/text";
import { NEVER, type Seconds } from "../time/instant";

/** Somebody who has left, is suspended or is about to leave, and what they still have. */
export interface Leaver {
  address: string;
  name: string;
  department: string | null;
  status: Person["status"];
  /** Since when they have left or are suspended; null where that isn't known, or they are still here. */
  since: Seconds | null;
  /** For somebody still active: their last moment here, which may be past. */
  lastDay: Seconds | null;
  /** Live items that they own. */
  owned: number;
  /** Live links that they made. */
  links: number;
  /** Grants to them, and places among the recipients of links. */
  grants: number;
  groups: number;
}

/** Whether somebody counts: an insider who is no longer active, or whose last day is known. */
export function isLeaver(estate: Estate, person: number): boolean {
  const { insider, status } = estate.people[person];
  return insider && (status !== "active" || estate.lastDayOf(person) !== null);
}

/** Who they are, without what they still have. */
export function leaverAs(estate: Estate, person: number): Omit<Leaver, "owned" | "links" | "grants" | "groups"> {
  const { address, name, department, status, suspendedAt } = estate.people[person];
  const lastDay = estate.lastDayOf(person);
  const isHere = status === "active";
  const since = isHere ? null : (suspendedAt ?? lastDay);
  return { address, name, department, status, since, lastDay: isHere ? lastDay : null };
}

/**
 * Every leaver: first those whose last day is known, the next to go first; then those who have gone
 * and still have something, the most first.
 */
export function leaversOf(estate: Estate, t: Seconds): Leaver[] {
  const { principals } = estate;
  const counts = { owned: ownedBy(estate), links: linksOf(estate, t), grants: grantsOf(estate, t) };
  return estate.everybody
    .filter(({ index }) => isLeaver(estate, index))
    .map(({ index }) => ({
      ...leaverAs(estate, index),
      ...{ owned: counts.owned[index], links: counts.links[index], grants: counts.grants[index] },
      groups: principals.directGroupsOf(index).length,
    }))
    .filter((leaver) => leaver.lastDay !== null || standing(leaver) > 0)
    .sort(
      (a, b) =>
        (a.lastDay ?? NEVER) - (b.lastDay ?? NEVER) || standing(b) - standing(a) || byText(a.address, b.address),
    );
}

/** How much somebody still has. */
export function standing({ owned, links, grants, groups }: Pick<Leaver, "owned" | "links" | "grants" | "groups">) {
  return owned + links + grants + groups;
}

/** By person: how many live items they own. */
function ownedBy({ items, tree, principals, people }: Estate): Int32Array {
  const counts = new Int32Array(people.length);
  for (let item = 0; item < items.count; item++) {
    const owner = items.owner[item] < 0 ? -1 : principals.personOf[items.owner[item]];
    const position = tree.positionOf[item];
    if (owner >= 0 && position >= 0 && tree.live[position] === 1) counts[owner]++;
  }
  return counts;
}

/** By person: how many live links they made. */
function linksOf(estate: Estate, t: Seconds): Int32Array {
  const { shares, principals, people } = estate;
  const counts = new Int32Array(people.length);
  for (let slot = 0; slot < shares.count; slot++) {
    const maker = shares.isLink(slot) ? principals.personOf[shares.maker[slot]] : -1;
    if (maker >= 0 && isLiveSlot(estate, slot, t)) counts[maker]++;
  }
  return counts;
}

/** By person: how many grants and places among recipients they have that aren't revoked. */
function grantsOf({ shares, principals, people }: Estate, t: Seconds): Int32Array {
  const counts = new Int32Array(people.length);
  for (let slot = 0; slot < shares.count; slot++) {
    if (shares.position[slot] < 0 || shares.revoked[slot] <= t) continue;
    if (shares.isLink(slot))
      for (const one of new Set(shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot])))
        counts[one]++;
    else {
      const to =
        shares.to[slot] < 0 || principals.groupOf[shares.to[slot]] >= 0 ? -1 : principals.personOf[shares.to[slot]];
      if (to >= 0) counts[to]++;
    }
  }
  return counts;
}
