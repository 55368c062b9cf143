import { whoReaches } from "../access/reach";
import { isLiveShare, leadsOutside } from "../access/live";
import { type Estate, sharesOn, storeAt } from "../estate/estate";
import type { Capabilities } from "../estate/records";
import type { Share } from "../estate/share";
import { filesReached, foldersBelow, placeOf } from "../estate/tree";
import { byText } from "../text/text";
import { NEVER, type Seconds } from "../time/instant";

/** An intake link that takes files, or will. */
export interface IntakeLink {
  id: string;
  itemId: string;
  itemName: string;
  storeName: string;
  place: string[];
  /** Null where it has none. */
  opens: Seconds | null;
  ends: Seconds | null;
  password: boolean;
  /** How many files and folders lie in its folder. */
  files: number;
  folders: number;
  /** How many other live shares sit on the folder, not those that take files in; of these, how many lead outside. */
  others: number;
  outside: number;
  /** How many of our own people reach it by name, so that they can read what came in. */
  readers: number;
  /** Who answers for it: its maker, or the folder's owner where they have left; null where that is nobody. */
  answers: { name: string; address: string } | null;
  can: Pick<Capabilities, "linkPassword" | "startTime"> & { words: boolean };
}

/** Every intake link that isn't over at t, those that end first before the others. */
export function intakeLinks(estate: Estate, t: Seconds): IntakeLink[] {
  const found: IntakeLink[] = [];
  for (const share of estate.allShares())
    if (share.role === "deposit" && share.position >= 0 && isStanding(estate, share, t))
      found.push(told(estate, share, t));
  return found.sort((a, b) => (a.ends ?? Infinity) - (b.ends ?? Infinity) || byText(a.itemName, b.itemName));
}

/** It takes files, or will once it has begun. */
function isStanding({ tree }: Estate, { position, revoked, ends, spent }: Share, t: Seconds): boolean {
  return tree.live[position] === 1 && revoked > t && ends > t && !spent;
}

function told(estate: Estate, share: Share, t: Seconds): IntakeLink {
  const { tree, people } = estate;
  const { position } = share;
  const { name, capabilities } = storeAt(estate, position);
  const others = sharesOn(estate, position).filter((one) => one.role !== "deposit" && isLiveShare(estate, one, t));
  const readers = [...whoReaches(estate, t, position).keys()].filter((index) => people[index].insider);
  const isHere = share.maker >= 0 && estate.principals.active[share.maker] === 1;
  const answers = isHere ? share.maker : estate.activeOwnerAt(position);
  return {
    ...{ id: share.id, itemId: share.itemId, itemName: tree.nameAt(position), storeName: name },
    place: placeOf(tree, position),
    opens: share.opens > t ? share.opens : null,
    ends: share.ends === NEVER ? null : share.ends,
    password: share.hasPassword,
    files: filesReached(tree, position),
    folders: foldersBelow(tree, position),
    others: others.length,
    outside: others.filter(({ slot }) => leadsOutside(estate, slot)).length,
    readers: readers.length,
    answers: answers < 0 ? null : { name: people[answers].name, address: people[answers].address },
    can: {
      linkPassword: capabilities.linkPassword,
      startTime: capabilities.startTime,
      words: capabilities.visitorWords === true,
    },
  };
}
