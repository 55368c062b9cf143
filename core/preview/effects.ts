import type { Altered } from "../access/altered";
import { both, livePositions, minus, overlaps, type Ranges, union } from "../access/ranges";
import { comesToInherit, isInForce, reachOfWay, type WayIn, type WaysIn } from "../access/waysIn";
import type { Estate } from "../estate/estate";
import { PEOPLE } from "../estate/shares";
import { inheritedFrom } from "../estate/tree";
import type { Seconds } from "../time/instant";
import { eachInSteps, finish, type Steps } from "../time/steps";

/** What changes do to somebody: positions, of which only the live ones count. */
export interface Effect {
  loses: Ranges;
  /** What the changes affect but they still reach. */
  keeps: Ranges;
  gains: Ranges;
  /** What still lets them reach it. */
  waysLeft: WayIn[];
}

export interface Effects {
  /** By person index; only people who are affected. */
  people: Map<number, Effect>;
  /** By address: people who are new to the estate. They can only gain. */
  strangers: Map<string, Effect>;
  /** For the holders of an open link's address. */
  anyone: Effect;
  /** For everybody whom a house link lets in. */
  house: Effect;
}

/**
 * What altering an estate at t would do, by comparing before and after: somebody loses an item only if no other
 * share, link or ownership still lets them reach it.
 */
export function effectsOf(estate: Estate, waysIn: WaysIn, altered: Altered, t: Seconds): Effects {
  return finish(effectsInSteps(estate, waysIn, altered, t));
}

/** The same, person by person. */
export function* effectsInSteps(estate: Estate, waysIn: WaysIn, altered: Altered, t: Seconds): Steps<Effects> {
  const comparison = new Comparison(estate, waysIn, altered, t);
  yield;
  const people = new Map<number, Effect>();
  yield* eachInSteps(affectedPeople(estate, altered, t), (person) => {
    const effect = comparison.ofPerson(person);
    if (effect) people.set(person, effect);
  });
  const strangers = new Map<string, Effect>();
  for (const [address, slots] of altered.strangers) {
    const effect = comparison.ofStranger(address, slots);
    if (effect.gains.length > 0) strangers.set(address, effect);
  }
  return { people, strangers, anyone: comparison.ofCrowd("open"), house: comparison.ofCrowd("house") };
}

/** Everybody with a way in that the changes affect. */
function affectedPeople(estate: Estate, altered: Altered, t: Seconds): Set<number> {
  const { shares, principals, tree } = estate;
  const people = new Set<number>([...altered.left.keys(), ...altered.joined.keys(), ...altered.owners.values()]);
  const add = (slot: number) => {
    if (shares.audience[slot] !== PEOPLE) return;
    for (let i = shares.membersFrom[slot]; i < shares.membersTo[slot]; i++) people.add(principals.pool[i]);
  };
  for (const slot of altered.revoked) if (shares.isOnAt(slot, t)) add(slot);
  for (const slot of altered.expires.keys())
    if (shares.isOnAt(slot, t) !== isInForce(estate, slot, t, altered)) add(slot);
  for (const [slot, narrowed] of altered.narrowed) {
    for (const person of narrowed) people.add(person);
    // The previous recipients of a named link may not be among them.
    add(slot);
  }
  for (const copied of altered.copied.values()) for (const person of copied) people.add(person);
  for (const dropped of altered.dropped.values()) for (const person of dropped) people.add(person);
  for (const slot of altered.restored) add(slot);
  for (const slot of altered.reopened.keys()) add(slot);
  for (const position of altered.owners.keys()) {
    const owner = estate.activeOwnerAt(position);
    if (owner >= 0) people.add(owner);
  }
  const turned = [
    ...altered.cut.flatMap((position) => inheritedFrom(tree, position).slice(1)),
    ...[...altered.uncut].flatMap((position) => comesToInherit(tree, position, altered.uncut)),
  ];
  for (const above of new Set(turned)) {
    const owner = estate.activeOwnerAt(above);
    if (owner >= 0) people.add(owner);
    for (let slot = estate.firstShareAt(above); slot >= 0; slot = shares.nextOnItem[slot])
      if (shares.isOnAt(slot, t)) add(slot);
  }
  return people;
}

interface Crowd {
  /** In order of position. */
  before: WayIn[];
  after: WayIn[];
  coveredBefore: Ranges;
  coveredAfter: Ranges;
}

class Comparison {
  private readonly open: Crowd;
  private readonly house: Crowd;
  /** Whether all that happens is that shares are revoked, and the people for whom more changes. */
  private readonly onlyEnds: boolean;
  private readonly marked: ReadonlySet<number>;

  constructor(
    private readonly estate: Estate,
    private readonly waysIn: WaysIn,
    private readonly altered: Altered,
    private readonly t: Seconds,
  ) {
    const lists = [...altered.dropped.values(), ...altered.narrowed.values(), ...altered.copied.values()];
    const { expires, cut, uncut, restored, reopened } = altered;
    this.onlyEnds = [expires, uncut, restored, reopened].every(({ size }) => size === 0) && cut.length === 0;
    this.marked = new Set([
      ...altered.joined.keys(),
      ...altered.owners.values(),
      ...[...altered.owners.keys()].map((position) => estate.activeOwnerAt(position)),
      ...altered.left.keys(),
      ...lists.flatMap((people) => [...people]),
    ]);
    this.open = this.crowd("open");
    this.house = this.crowd("house");
  }

  private crowd(kind: "open" | "house"): Crowd {
    const { revoked, narrowed } = this.altered;
    const { ways: before, covered: coveredBefore } = this.waysIn.crowdAt(kind, this.t);
    const isTouched = !this.onlyEnds || before.some(({ share }) => revoked.has(share) || narrowed.has(share));
    if (!isTouched) return { before, after: before, coveredBefore, coveredAfter: coveredBefore };
    const after = this.onlyEnds ? this.unrevoked(before) : this.waysIn.ofCrowd(kind, this.t, this.altered);
    const coveredAfter = union(after.flatMap(({ position }) => this.reachOf(position)));
    return { before, after, coveredBefore, coveredAfter };
  }

  /** What is left of some ways, if there are only revokes. */
  private unrevoked(ways: WayIn[]): WayIn[] {
    const { revoked, narrowed } = this.altered;
    return ways.filter(({ share }) => share < 0 || !(revoked.has(share) || narrowed.has(share)));
  }

  private reachOf(position: number): number[] {
    return reachOfWay(this.estate, position, this.altered);
  }

  private rangeOf(position: number): number[] {
    return [position, this.estate.tree.end[position]];
  }

  /** Null where nothing changes for them. */
  ofPerson(person: number): Effect | null {
    const isInsider = this.estate.principals.insider[person] === 1;
    const crowds = isInsider ? [this.open, this.house] : [this.open];
    const before = this.waysIn.of(person, this.t);
    const { revoked } = this.altered;
    if (this.onlyEnds && !this.marked.has(person)) {
      const gone = before.filter(({ share }) => share >= 0 && revoked.has(share));
      const touched = union(gone.flatMap(({ position }) => this.rangeOf(position)));
      return this.compare(touched, [], { before, after: this.unrevoked(before) }, crowds);
    }
    const after = this.waysIn.of(person, this.t, this.altered);
    const touched = this.touched(before, after);
    const gained = this.opened(before, after);
    if (touched.length === 0 && gained.length === 0) return null;
    return this.compare(touched, gained, { before, after }, crowds);
  }

  ofStranger(address: string, slots: Iterable<number>): Effect {
    const crowds = this.estate.principals.describe(address).insider ? [this.open, this.house] : [this.open];
    const after = this.waysIn.ofStranger(slots, this.t, this.altered);
    return this.compare([], this.opened([], after), { before: [], after }, crowds);
  }

  ofCrowd(kind: "open" | "house"): Effect {
    const own = this[kind];
    if (own.before === own.after) return { loses: [], keeps: [], gains: [], waysLeft: [] };
    return this.compare(this.touched(own.before, own.after), this.opened(own.before, own.after), own, []);
  }

  /** What the ways used to reach and no longer do, way by way. */
  private touched(before: WayIn[], after: WayIn[]): Ranges {
    const { cut } = this.altered;
    const stay = new Set(after.map(wayKey));
    const pieces: number[] = [];
    for (const way of before) {
      const { position } = way;
      if (!stay.has(wayKey(way))) pieces.push(...this.rangeOf(position));
      else if (cut.length > 0) pieces.push(...minus(this.rangeOf(position), union(this.reachOf(position))));
    }
    return union(pieces);
  }

  /** What new ways reach. */
  private opened(before: WayIn[], after: WayIn[]): Ranges {
    const known = new Set(before.map(wayKey));
    const { uncut } = this.altered;
    const pieces = after.flatMap((way) => {
      if (!known.has(wayKey(way))) return this.reachOf(way.position);
      return uncut.size > 0 ? minus(union(this.reachOf(way.position)), this.rangeOf(way.position)) : [];
    });
    return union(pieces);
  }

  private compare(
    touched: Ranges,
    gained: Ranges,
    { before, after }: { before: WayIn[]; after: WayIn[] },
    crowds: Crowd[],
  ): Effect {
    const isInto = (ranges: Ranges) => (way: WayIn) =>
      overlaps(ranges, way.position, this.estate.tree.end[way.position]);
    const stay = this.altered.uncut.size > 0 ? after : after.filter(isInto(touched));
    const covered = union(stay.flatMap(({ position }) => this.reachOf(position)));
    const loses = crowds.reduce((left, crowd) => minus(left, crowd.coveredAfter), minus(touched, covered));
    const keeps = minus(touched, loses);
    const had = union(before.filter(isInto(gained)).flatMap(({ position }) => this.rangeOf(position)));
    const gains = crowds.reduce((left, crowd) => minus(left, crowd.coveredBefore), minus(gained, had));
    const ownWays = after.filter((way) => this.reaches(way, keeps));
    return { loses, keeps, gains, waysLeft: [...ownWays, ...this.crowdWaysInto(keeps, crowds)] };
  }

  private reaches({ position }: WayIn, ranges: Ranges): boolean {
    return both(union(this.reachOf(position)), ranges).length > 0;
  }

  /** Ways of crowds into some ranges: such a way sits in the range, or above where the range begins. */
  private crowdWaysInto(ranges: Ranges, crowds: Crowd[]): WayIn[] {
    const { tree } = this.estate;
    const found = new Set<WayIn>();
    for (const { after } of crowds)
      for (let i = 0; i < ranges.length; i += 2) {
        for (const above of inheritedFrom(tree, ranges[i])) addBetween(after, above, above + 1, found);
        addBetween(after, ranges[i], ranges[i + 1], found);
      }
    return [...found].filter((way) => this.reaches(way, ranges));
  }
}

/** Adds the ways, sorted by position, that sit in a range. */
function addBetween(ways: WayIn[], from: number, to: number, found: Set<WayIn>) {
  let low = 0;
  let high = ways.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ways[middle].position < from) low = middle + 1;
    else high = middle;
  }
  for (; low < ways.length && ways[low].position < to; low++) found.add(ways[low]);
}

function wayKey({ share, position }: WayIn): number {
  return share < 0 ? ~position : share;
}

/** The first few live positions of some ranges. */
export function firstLive(estate: Estate, ranges: Ranges, most: number): number[] {
  const first: number[] = [];
  for (const position of livePositions(estate.tree, ranges)) {
    first.push(position);
    if (first.length === most) break;
  }
  return first;
}
