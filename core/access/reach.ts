import { type Estate, type Share, sharesOn } from "../estate/estate";
import type { Role } from "../estate/records";
import { NEVER, type Seconds } from "../time/instant";
import { activeOwner } from "./exposure";
import { isLiveShare } from "./live";
import { type Access, addAccess, inheritedFrom } from "./paths";

const OWNERSHIP: Access = { role: "manage", download: true, until: NEVER };

/** Which shares have a person in their audience by name, and which items each person owns. */
export interface ByPerson {
  shares: Map<number, Share[]>;
  owned: Map<number, number[]>;
}

/** @param only the people who will be asked about; without it, everybody */
export function indexByPerson(estate: Estate, only?: ReadonlySet<number>): ByPerson {
  const shares = new Map<number, Share[]>();
  const owned = new Map<number, number[]>();
  const isWanted = (person: number) => only === undefined || only.has(person);
  for (const share of estate.shares)
    if (share.audience.kind === "people")
      for (const person of share.audience.people) if (isWanted(person)) append(shares, person, share);
  for (let position = 0; position < estate.tree.ids.length; position++) {
    const owner = activeOwner(estate, position);
    if (owner >= 0 && isWanted(owner)) append(owned, owner, position);
  }
  return { shares, owned };
}

function append<K, V>(lists: Map<K, V[]>, key: K, value: V) {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

/** Every live position that a person reaches by name at t (not by open or house links), with what they may do. */
export function reachOf(
  estate: Estate,
  t: Seconds,
  person: number,
  index: ByPerson,
  excluded: ReadonlySet<string> = new Set(),
): Map<number, Access> {
  const reached = new Map<number, Access>();
  for (const position of index.owned.get(person) ?? []) cover(estate, position, OWNERSHIP, reached);
  for (const share of index.shares.get(person) ?? [])
    if (isLiveShare(estate, share, t) && !excluded.has(share.id))
      cover(estate, share.position, accessThrough(share), reached);
  return reached;
}

function cover(estate: Estate, position: number, access: Access, reached: Map<number, Access>) {
  const { live, end } = estate.tree;
  if (!live[position]) return;
  for (let at = position; at < end[position]; at++) if (live[at]) reached.set(at, addAccess(reached.get(at), access));
}

function accessThrough(share: Share): Access {
  return { role: share.role as Role, download: share.download, until: share.expires };
}

/** Everybody who reaches an item by name at t, by person index. */
export function whoReaches(estate: Estate, t: Seconds, position: number): Map<number, Access> {
  const who = new Map<number, Access>();
  if (!estate.tree.live[position]) return who;
  for (const at of inheritedFrom(estate, position)) {
    const owner = activeOwner(estate, at);
    if (owner >= 0) who.set(owner, addAccess(who.get(owner), OWNERSHIP));
    for (const share of sharesOn(estate, at)) {
      if (share.audience.kind !== "people" || !isLiveShare(estate, share, t)) continue;
      for (const person of share.audience.people) who.set(person, addAccess(who.get(person), accessThrough(share)));
    }
  }
  return who;
}
