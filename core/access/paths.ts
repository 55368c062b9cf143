import type { Estate } from "../estate/estate";
import type { Role } from "../estate/records";
import { HOUSE, OPEN, SHARE_ROLES } from "../estate/shares";
import { inheritedFrom } from "../estate/tree";
import { NEVER, type Seconds, until } from "../time/instant";
import { isLiveSlot } from "./live";
import { strongerRole } from "./roles";
import { letsInByName } from "./waysIn";

export type PathKind = "grant" | "owner" | "named-link" | "house-link" | "open-link";

/** One way by which a person reaches an item. */
export interface Path {
  share: string;
  kind: PathKind;
  /** Id of the item that the share sits on. */
  at: string;
  /** Groups from the granted one down to the one that holds the person. */
  via: string[];
  role: Role;
  download: boolean;
  until: Seconds;
}

/** What a person may do with an item over all paths together. */
export interface Access {
  role: Role;
  download: boolean;
  until: Seconds;
}

export const OWNERSHIP: Access = { role: "manage", download: true, until: NEVER };

export function addAccess(sum: Access | undefined, path: Access): Access {
  if (!sum) return { role: path.role, download: path.download, until: path.until };
  return {
    role: strongerRole(sum.role, path.role),
    download: sum.download || path.download,
    until: Math.max(sum.until, path.until),
  };
}

/** What the share in a slot gives to those whom it lets in. */
export function accessThrough({ shares }: Estate, slot: number): Access {
  return {
    role: SHARE_ROLES[shares.role[slot]] as Role,
    download: shares.download[slot] === 1,
    until: shares.expires[slot],
  };
}

/**
 * Every path from a person to an item at t, sorted by share id. Open links count for everybody, house
 * links for every active insider. An item that isn't live has none.
 */
export function pathsTo(estate: Estate, t: Seconds, person: number, position: number): Path[] {
  if (estate.tree.live[position] === 0) return [];
  const paths: Path[] = [];
  for (const at of inheritedFrom(estate.tree, position)) {
    if (estate.activeOwnerAt(at) === person) paths.push(ownerPath(estate, at));
    for (let slot = estate.firstShareAt(at); slot >= 0; slot = estate.shares.nextOnItem[slot]) {
      const kind = isLiveSlot(estate, slot, t) ? kindFor(estate, slot, person) : null;
      if (kind) paths.push(pathThrough(estate, slot, kind, person));
    }
  }
  return paths.sort((a, b) => (a.share < b.share ? -1 : 1));
}

function ownerPath(estate: Estate, position: number): Path {
  const at = estate.tree.idAt(position);
  return { share: `owner:${at}`, kind: "owner", at, via: [], ...OWNERSHIP };
}

/** In which capacity a share lets a person in; null where it doesn't. */
export function kindFor(estate: Estate, slot: number, person: number): PathKind | null {
  const { shares, principals } = estate;
  if (shares.audience[slot] === OPEN) return "open-link";
  if (shares.audience[slot] === HOUSE)
    return principals.insider[person] === 1 && principals.active[person] === 1 ? "house-link" : null;
  if (!letsInByName(estate, slot, person)) return null;
  return shares.isLink(slot) ? "named-link" : "grant";
}

function pathThrough(estate: Estate, slot: number, kind: PathKind, person: number): Path {
  const { shares, principals, items } = estate;
  const group = shares.to[slot] < 0 ? -1 : principals.groupOf[shares.to[slot]];
  return {
    share: shares.idOf(slot),
    kind,
    at: items.idOf(shares.item[slot]),
    via: group >= 0 ? principals.chain(group, person)! : [],
    ...accessThrough(estate, slot),
  };
}

/** One path as `bin/latch paths` gives it. */
export function pathLine(path: Path) {
  return { ...path, until: until(path.until) };
}
