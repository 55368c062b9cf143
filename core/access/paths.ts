import { type Estate, type Share, sharesOn } from "../estate/estate";
import type { Role } from "../estate/records";
import { NEVER, type Seconds, until } from "../time/instant";
import { activeOwner, strongerRole } from "./exposure";
import { isLiveShare } from "./live";

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

export function addAccess(sum: Access | undefined, path: Access): Access {
  if (!sum) return { role: path.role, download: path.download, until: path.until };
  return {
    role: strongerRole(sum.role, path.role),
    download: sum.download || path.download,
    until: Math.max(sum.until, path.until),
  };
}

/** The position and those above it from which shares are inherited, nearest first. */
export function inheritedFrom(estate: Estate, position: number): number[] {
  const { tree } = estate;
  const chain = [position];
  for (let at = position; tree.items[at].inherits && tree.parent[at] >= 0; at = tree.parent[at])
    chain.push(tree.parent[at]);
  return chain;
}

/**
 * Every path from a person to an item at t, sorted by share id. Open links count for everybody, house
 * links for every active insider. An item that isn't live has none.
 */
export function pathsTo(
  estate: Estate,
  t: Seconds,
  person: number,
  position: number,
  excluded: ReadonlySet<string> = new Set(),
): Path[] {
  if (!estate.tree.live[position]) return [];
  const paths: Path[] = [];
  for (const at of inheritedFrom(estate, position)) {
    if (activeOwner(estate, at) === person) paths.push(ownerPath(estate, at));
    for (const share of sharesOn(estate, at)) {
      if (excluded.has(share.id) || !isLiveShare(estate, share, t)) continue;
      const path = pathThrough(estate, share, person);
      if (path) paths.push(path);
    }
  }
  return paths.sort((a, b) => (a.share < b.share ? -1 : 1));
}

function ownerPath(estate: Estate, position: number): Path {
  const at = estate.tree.ids[position];
  return { share: `owner:${at}`, kind: "owner", at, via: [], role: "manage", download: true, until: NEVER };
}

/** How a person comes in through one share, if they do. */
function pathThrough(estate: Estate, share: Share, person: number): Path | null {
  const { audience, record } = share;
  const { insider, status } = estate.people[person];
  let kind: PathKind;
  if (audience.kind === "nobody") return null;
  if (audience.kind === "open") kind = "open-link";
  else if (audience.kind === "house") {
    if (!insider || status !== "active") return null;
    kind = "house-link";
  } else {
    if (!audience.people.includes(person)) return null;
    kind = record.type === "grant" ? "grant" : "named-link";
  }
  return {
    share: share.id,
    kind,
    at: record.itemId,
    via: share.group >= 0 ? estate.groups.chain(share.group, person)! : [],
    role: share.role as Role,
    download: share.download,
    until: share.expires,
  };
}

/** One path as `bin/latch paths` gives it. */
export function pathLine(path: Path) {
  return { ...path, until: until(path.until) };
}
