import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import type { Seconds } from "../time/instant";

/** The capacity in which somebody is asked: ways to find who knows whether a share is still needed. */
export const DECIDERS = ["owner", "maker", "space-owner", "manager", "head", "named"] as const;
export type DeciderKind = (typeof DECIDERS)[number];

/** Whom a round asks, and who deputises for whom. People are given by index. */
export interface Deciding {
  /** The first of these who can decide does. */
  order: readonly DeciderKind[];
  /** Who `named` is; null where nobody is named. */
  named: number | null;
  /** By department: its head. */
  heads: ReadonlyMap<string, number>;
  /** By person: who decides in their place, from one instant until before another. */
  deputies: ReadonlyMap<number, readonly Deputy[]>;
}

export interface Deputy {
  person: number;
  from: Seconds;
  until: Seconds;
}

/** Who decides about a share. */
export interface Decider {
  person: number;
  as: DeciderKind;
  /** Whose deputy they are; null where they decide for themselves. */
  insteadOf: number | null;
}

/**
 * Who decides about a share at t: the first, in the round's order, who is an active insider and not one of the
 * people the share names, since nobody confirms their own access. A deputy decides in their place, if they could
 * decide too. @returns null where nobody is left: the line goes to the administrators
 */
export function deciderOf(estate: Estate, share: Share, deciding: Deciding, t: Seconds): Decider | null {
  const people = new Set(share.people);
  const canDecide = (person: number) => isActiveInsider(estate, person) && !people.has(person);
  for (const as of deciding.order) {
    const person = personFor(estate, share, deciding, as);
    if (!canDecide(person)) continue;
    const deputy = deciding.deputies.get(person)?.find(({ from, until }) => from <= t && t < until)?.person;
    return deputy !== undefined && canDecide(deputy)
      ? { person: deputy, as, insteadOf: person }
      : { person, as, insteadOf: null };
  }
  return null;
}

function isActiveInsider({ principals }: Estate, person: number): boolean {
  return person >= 0 && principals.active[person] === 1 && principals.insider[person] === 1;
}

/** Index of the person that a choice leads to, or -1. */
function personFor(estate: Estate, share: Share, { named, heads }: Deciding, as: DeciderKind): number {
  const owner = estate.ownerAt(share.position);
  switch (as) {
    case "owner":
      return owner;
    case "maker":
      return share.maker;
    case "space-owner":
      return estate.ownerAt(spaceAbove(estate, share.position));
    case "manager":
      return estate.managerOf(owner);
    case "head":
      return heads.get(estate.people[owner]?.department ?? "") ?? -1;
    case "named":
      return named ?? -1;
  }
}

/** The position of the nearest space at or above another, or the topmost item where there is none. */
function spaceAbove({ tree }: Estate, position: number): number {
  let at = position;
  while (tree.kindAt(at) !== "space" && tree.parent[at] >= 0) at = tree.parent[at];
  return at;
}
