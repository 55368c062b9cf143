import { isLiveSlot } from "../access/live";
import type { Estate } from "../estate/estate";
import type { Person } from "../estate/principals";
import { byText } from "../text/text";
import type { Seconds } from "../time/instant";

/** Somebody who worked here, or is suspended, and what of theirs still stands. */
export interface Leaver {
  address: string;
  name: string;
  department: string | null;
  status: Exclude<Person["status"], "active">;
  /** Their last instant here; null where nobody tells it. */
  leftAt: Seconds | null;
  /** Live items that they own. */
  owned: number;
  /** Live links that they made. */
  links: number;
  /** Grants to them, places among the recipients of links, and groups that they are in: what would let them in again. */
  held: number;
}

/** Every insider who isn't active and of whom something still stands, who left the most first. */
export function leaversOf(estate: Estate, t: Seconds): Leaver[] {
  const { people, principals } = estate;
  const counts = { owned: ownedBy(estate), links: linksOf(estate, t), held: heldBy(estate, t) };
  return people
    .filter(({ insider, status }) => insider && status !== "active")
    .map(({ index, address, name, department, status, leftAt }) => ({
      ...{ address, name, department, status: status as Leaver["status"], leftAt },
      owned: counts.owned[index],
      links: counts.links[index],
      held: counts.held[index] + principals.directGroupsOf(index).length,
    }))
    .filter((leaver) => sum(leaver) > 0)
    .sort((a, b) => sum(b) - sum(a) || byText(a.address, b.address));

  function sum({ owned, links, held }: Leaver) {
    return owned + links + held;
  }
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

/** By person: how many grants and places among recipients they have that weren't taken back. */
function heldBy({ shares, principals, people }: Estate, t: Seconds): Int32Array {
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
