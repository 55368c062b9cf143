import type { Estate } from "../estate/estate";
import { PEOPLE } from "../estate/shares";
import { inheritedFrom, isAtOrBelow } from "../estate/tree";
import type { Seconds } from "../time/instant";
import { type Change, subjectOf } from "../changes/change";
import type { Effects } from "./effects";

/** Subjects of changes that are seldom intended: to what an insider would lose, and to running projects. */
export interface Careful {
  insiders: string[];
  running: string[];
}

/** @param changes those that can be made; @param effects of all of them together */
export function carefulOf(estate: Estate, changes: readonly Change[], effects: Effects, t: Seconds): Careful {
  const losers = losingInsiders(estate, effects);
  const houseLoses = effects.house.loses.length > 0;
  const running = estate.engagements.filter(({ starts, ends }) => starts <= t && t < ends);
  const subjectsOf = (isMeant: (change: Change) => boolean) => changes.filter(isMeant).map(subjectOf);
  return {
    insiders: subjectsOf((change) => takesFromInsider(estate, change, losers, houseLoses)),
    running: subjectsOf((change) => {
      const position = positionOf(estate, change);
      return position !== undefined && running.some((one) => isAtOrBelow(estate.tree, position, one.positions));
    }),
  };
}

function losingInsiders(estate: Estate, { people }: Effects): ReadonlySet<number> {
  const losing = [...people].filter(([person, { loses }]) => loses.length > 0 && estate.people[person].insider);
  return new Set(losing.map(([person]) => person));
}

function positionOf({ tree, shares }: Estate, change: Change): number | undefined {
  if ("itemId" in change) return tree.position(change.itemId);
  const slot = "shareId" in change ? shares.find(change.shareId) : undefined;
  return slot === undefined ? undefined : shares.position[slot];
}

/** Whether a change closes a way in of an insider who loses something by the whole set. */
function takesFromInsider(estate: Estate, change: Change, losers: ReadonlySet<number>, houseLoses: boolean): boolean {
  const { shares, principals, tree } = estate;
  const isForLoser = (slot: number) => {
    if (shares.audience[slot] !== PEOPLE) return houseLoses && shares.isLink(slot) && shares.reachOf(slot) === "house";
    for (let i = shares.membersFrom[slot]; i < shares.membersTo[slot]; i++)
      if (losers.has(principals.pool[i])) return true;
    return false;
  };
  switch (change.action) {
    case "leave-group":
    case "drop-recipient":
      return losers.has(principals.findAddress(change.address)!);
    case "stop-inheriting":
      return inheritedFrom(tree, tree.position(change.itemId)!)
        .slice(1)
        .some((above) => losers.has(estate.activeOwnerAt(above)) || someShareAt(estate, above, isForLoser));
    case "set-password":
    case "block-download":
    case "set-role":
    case "put-back":
    case "remake-link":
    case "join-group":
    case "inherit":
    case "drop-order":
    case "set-start":
    case "set-words":
    case "new-link":
    case "new-grant":
      // Everybody who had access keeps it.
      return false;
    case "hand-over":
      return losers.has(estate.activeOwnerAt(tree.position(change.itemId)!));
    default:
      return isForLoser(shares.find(change.shareId)!);
  }
}

function someShareAt(estate: Estate, position: number, test: (slot: number) => boolean): boolean {
  for (let slot = estate.firstShareAt(position); slot >= 0; slot = estate.shares.nextOnItem[slot])
    if (test(slot)) return true;
  return false;
}
