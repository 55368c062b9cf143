import type { Estate } from "../estate/estate";
import { AUDIENCES, type AudienceKind, HOUSE, OPEN, PEOPLE } from "../estate/shares";
import type { Tree } from "../estate/tree";
import type { Seconds } from "../time/instant";
import { type Altered, UNALTERED } from "./altered";
import { isLiveSlot } from "./live";
import { type Ranges, union } from "./ranges";

/** One share, or an ownership, by which somebody comes in, and where it sits. */
export interface WayIn {
  /** Slot of the share; -1 for ownership of the item at `position`. */
  share: number;
  position: number;
}

type Lists = Map<number, number[]>;

/**
 * Which shares let a person in, and what they own, found from the person. Group shares stand by their
 * group, so that the index is no longer than the shares. It holds until people or positions change;
 * single shares are added as they come, and an entry that has become untrue is passed over.
 */
export class WaysIn {
  private readonly ofPerson: Lists = new Map();
  private readonly ofGroup: Lists = new Map();
  private readonly owned: Lists = new Map();
  private readonly crowds: Record<"open" | "house", Set<number>> = { open: new Set(), house: new Set() };

  private keptCrowds: Partial<Record<"open" | "house", CrowdWays>> = {};

  constructor(private readonly estate: Estate) {
    for (let slot = 0; slot < estate.shares.count; slot++) this.enter(slot, append);
    const { items, tree, principals } = estate;
    for (let slot = 0; slot < items.count; slot++) {
      const owner = items.owner[slot] < 0 ? -1 : principals.personOf[items.owner[slot]];
      if (owner >= 0 && tree.positionOf[slot] >= 0) append(this.owned, owner, tree.positionOf[slot]);
    }
  }

  /** Takes in a share that is new or has changed. */
  add(slot: number) {
    this.keptCrowds = {};
    this.enter(slot, appendOnce);
  }

  private enter(slot: number, append: (lists: Lists, key: number, value: number) => void) {
    const { shares, principals } = this.estate;
    if (shares.position[slot] < 0) return;
    if (shares.audience[slot] === OPEN) this.crowds.open.add(slot);
    else if (shares.audience[slot] === HOUSE) this.crowds.house.add(slot);
    else if (shares.audience[slot] === PEOPLE) {
      const group = shares.to[slot] < 0 ? -1 : principals.groupOf[shares.to[slot]];
      if (group >= 0) append(this.ofGroup, group, slot);
      else
        for (let i = shares.membersFrom[slot]; i < shares.membersTo[slot]; i++)
          append(this.ofPerson, principals.pool[i], slot);
    }
  }

  /** The ways in by name that a person would have at t if some things were changed. */
  of(person: number, t: Seconds, altered: Altered = UNALTERED): WayIn[] {
    const { principals, tree } = this.estate;
    if (principals.active[person] === 0) return [];
    const ways: WayIn[] = [];
    for (const position of this.owned.get(person) ?? [])
      if (tree.live[position] === 1 && (altered.owners.get(position) ?? person) === person)
        ways.push({ share: -1, position });
    for (const [position, owner] of altered.owners)
      if (owner === person && tree.live[position] === 1) ways.push({ share: -1, position });
    // Mostly nothing is altered, or little: sets that are empty anyway needn't be asked for each share.
    const isAltered = altered !== UNALTERED;
    const isKept = (slot: number) =>
      !altered.dropped.get(slot)?.has(person) && !altered.narrowed.has(slot) && !altered.reopened.has(slot);
    const take = (slot: number) => {
      if (isAltered ? isInForce(this.estate, slot, t, altered) : isLiveSlot(this.estate, slot, t))
        ways.push({ share: slot, position: this.estate.shares.position[slot] });
    };
    for (const slot of this.ofPerson.get(person) ?? [])
      if (letsInByName(this.estate, slot, person) && (!isAltered || isKept(slot))) take(slot);
    for (const [slot, people] of altered.narrowed) if (people.has(person)) take(slot);
    for (const [slot, people] of altered.copied)
      if (people.has(person) && isOnAnew(this.estate, slot, t, altered))
        ways.push({ share: slot, position: this.estate.shares.position[slot] });
    for (const group of principals.groupsOf(person, altered.left.get(person), altered.joined.get(person)))
      for (const slot of this.ofGroup.get(group) ?? [])
        if (principals.groupOf[this.estate.shares.to[slot]] === group) take(slot);
    return ways;
  }

  /** The ways in of somebody who isn't in the estate yet, by links that are made or narrowed for their address. */
  ofStranger(slots: Iterable<number>, t: Seconds, altered: Altered): WayIn[] {
    const { estate } = this;
    const isOn = (slot: number) =>
      altered.copied.has(slot) ? isOnAnew(estate, slot, t, altered) : isInForce(estate, slot, t, altered);
    return [...slots].filter(isOn).map((slot) => ({ share: slot, position: estate.shares.position[slot] }));
  }

  /** The links by which anyone, or everyone in-house, comes in at t, in order of position. */
  ofCrowd(kind: "open" | "house", t: Seconds, altered: Altered = UNALTERED): WayIn[] {
    const ways: WayIn[] = [];
    const take = (slot: number) => {
      if (isInForce(this.estate, slot, t, altered))
        ways.push({ share: slot, position: this.estate.shares.position[slot] });
    };
    for (const slot of this.crowds[kind])
      if (isOf(this.estate, slot, kind) && !altered.narrowed.has(slot) && !altered.reopened.has(slot)) take(slot);
    for (const [slot, to] of altered.reopened) if (to === kind) take(slot);
    return ways.sort((a, b) => a.position - b.position);
  }

  /** The same with all that they reach; kept for the instant that was asked about last. */
  crowdAt(kind: "open" | "house", t: Seconds): CrowdWays {
    const kept = this.keptCrowds[kind];
    if (kept?.t === t) return kept;
    const ways = this.ofCrowd(kind, t);
    const { end } = this.estate.tree;
    const covered = union(ways.flatMap(({ position }) => [position, end[position]]));
    return (this.keptCrowds[kind] = { t, ways, covered });
  }
}

/** The links for whoever comes, at an instant, and all that they reach. */
interface CrowdWays {
  t: Seconds;
  ways: WayIn[];
  covered: Ranges;
}

function append(lists: Lists, key: number, value: number) {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

function appendOnce(lists: Lists, key: number, value: number) {
  if (!lists.get(key)?.includes(value)) append(lists, key, value);
}

function isOf({ shares }: Estate, slot: number, kind: AudienceKind): boolean {
  return AUDIENCES[shares.audience[slot]] === kind;
}

/** Whether a share lets people in at t, were some things altered. */
export function isInForce({ shares, tree }: Estate, slot: number, t: Seconds, altered: Altered): boolean {
  if (shares.position[slot] < 0 || tree.live[shares.position[slot]] === 0 || altered.revoked.has(slot)) return false;
  const isBack = altered.restored.has(slot);
  const end = altered.expires.get(slot);
  if (end === undefined && !isBack) return shares.isOnAt(slot, t);
  const stands = isBack || shares.revoked[slot] > t;
  return (end ?? shares.ends[slot]) > t && stands && shares.opens[slot] <= t && !shares.isSpent(slot);
}

/** Whether a link made anew like another one lets people in at t: it hasn't been used yet. */
function isOnAnew({ shares, tree }: Estate, slot: number, t: Seconds, { expires }: Altered): boolean {
  const isLive = shares.position[slot] >= 0 && tree.live[shares.position[slot]] === 1;
  return isLive && shares.opens[slot] <= t && (expires.get(slot) ?? shares.ends[slot]) > t;
}

/** Whether an active person is in a share's audience by name. */
export function letsInByName({ shares, principals }: Estate, slot: number, person: number): boolean {
  if (shares.audience[slot] !== PEOPLE) return false;
  for (let i = shares.membersFrom[slot]; i < shares.membersTo[slot]; i++)
    if (principals.pool[i] === person) return true;
  return false;
}

/** What a way in on a position reaches, as from, to, from, to, …; cuts below it are left out, what inherits again is in. */
export function reachOfWay(
  { tree }: Estate,
  position: number,
  { cut, uncut }: Pick<Altered, "cut" | "uncut">,
): number[] {
  if (uncut.size === 0) return reachBelow(tree, position, cut);
  const again = [...uncut].filter((at) => comesToInherit(tree, at, uncut).includes(position));
  return [position, ...again].flatMap((top) => reachBelow(tree, top, cut));
}

/** The positions from which one inherits, were some to inherit again. */
export function comesToInherit(tree: Tree, position: number, uncut: ReadonlySet<number>): number[] {
  const above: number[] = [];
  for (let at = position; tree.parent[at] >= 0 && (tree.inheritsAt(at) || uncut.has(at)); at = tree.parent[at])
    above.push(tree.parent[at]);
  return above;
}

function reachBelow(tree: Tree, position: number, cut: readonly number[]): number[] {
  const pieces: number[] = [];
  let from = position;
  const end = tree.end[position];
  for (const at of cut) {
    if (at <= position || at < from || at >= end) continue;
    if (at > from) pieces.push(from, at);
    from = tree.end[at];
  }
  if (from < end) pieces.push(from, end);
  return pieces;
}
