import type { Altered } from "../access/altered";
import { both, livePositions, minus, overlaps, type Ranges, union } from "../access/ranges";
import { isInForce, reachOfWay, type WayIn, type WaysIn } from "../access/waysIn";
import type { Estate } from "../estate/estate";
import { PEOPLE } from "../estate/shares";
import { inheritedFrom } from "../estate/tree";
import type { Seconds } from "../time/instant";

/** What changes do to somebody: positions, of which only the live ones count. */
export interface Effect {
  loses: Ranges;
  /** What the changes touch, and they reach all the same. */
  keeps: Ranges;
  gains: Ranges;
  /** By what they keep it. */
  waysLeft: WayIn[];
}

export interface Effects {
  /** By person index; whoever isn't touched isn't here. */
  people: Map<number, Effect>;
  /** Of those who hold the address of an open link. */
  anyone: Effect;
  /** Of those who come in by a house link. */
  house: Effect;
}

/**
 * What it would do at t to alter an estate, compared before and after: somebody loses an item only if no other
 * share, link or ownership still lets them reach it.
 */
export function effectsOf(estate: Estate, waysIn: WaysIn, altered: Altered, t: Seconds): Effects {
  const comparison = new Comparison(estate, waysIn, altered, t);
  const people = new Map<number, Effect>();
  for (const person of affectedPeople(estate, altered, t)) {
    const effect = comparison.ofPerson(person);
    if (effect) people.set(person, effect);
  }
  return { people, anyone: comparison.ofCrowd("open"), house: comparison.ofCrowd("house") };
}

/** Whoever has a way in that the changes are about. */
function affectedPeople(estate: Estate, altered: Altered, t: Seconds): Set<number> {
  const { shares, principals, tree } = estate;
  const people = new Set<number>(altered.left.keys());
  const add = (slot: number) => {
    if (shares.audience[slot] !== PEOPLE) return;
    for (let i = shares.membersFrom[slot]; i < shares.membersTo[slot]; i++) people.add(principals.pool[i]);
  };
  for (const slot of altered.revoked) if (shares.isOnAt(slot, t)) add(slot);
  for (const slot of altered.expires.keys())
    if (shares.isOnAt(slot, t) !== isInForce(estate, slot, t, altered)) add(slot);
  for (const narrowed of altered.narrowed.values()) for (const person of narrowed) people.add(person);
  for (const dropped of altered.dropped.values()) for (const person of dropped) people.add(person);
  for (const position of altered.cut)
    for (const above of inheritedFrom(tree, position).slice(1)) {
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
  /** Those of whom more changes than that shares are revoked. */
  private readonly marked: ReadonlySet<number>;

  constructor(
    private readonly estate: Estate,
    private readonly waysIn: WaysIn,
    private readonly altered: Altered,
    private readonly t: Seconds,
  ) {
    const lists = [...altered.dropped.values(), ...altered.narrowed.values()];
    this.marked = new Set([...altered.left.keys(), ...lists.flatMap((people) => [...people])]);
    this.open = this.crowd("open");
    this.house = this.crowd("house");
  }

  private crowd(kind: "open" | "house"): Crowd {
    const { expires, cut, revoked, narrowed } = this.altered;
    const { ways: before, covered: coveredBefore } = this.waysIn.crowdAt(kind, this.t);
    const isTouched =
      expires.size > 0 || cut.length > 0 || before.some(({ share }) => revoked.has(share) || narrowed.has(share));
    if (!isTouched) return { before, after: before, coveredBefore, coveredAfter: coveredBefore };
    const after = expires.size === 0 ? this.unrevoked(before) : this.waysIn.ofCrowd(kind, this.t, this.altered);
    const coveredAfter = union(after.flatMap(({ position }) => reachOfWay(this.estate, position, cut)));
    return { before, after, coveredBefore, coveredAfter };
  }

  /** What is left of some ways where nothing but revokes is to be thought of. */
  private unrevoked(ways: WayIn[]): WayIn[] {
    const { revoked, narrowed } = this.altered;
    return ways.filter(({ share }) => share < 0 || !(revoked.has(share) || narrowed.has(share)));
  }

  private rangeOf(position: number): number[] {
    return [position, this.estate.tree.end[position]];
  }

  /** Null where nothing changes for them. */
  ofPerson(person: number): Effect | null {
    const isInsider = this.estate.principals.insider[person] === 1;
    const crowds = isInsider ? [this.open, this.house] : [this.open];
    const before = this.waysIn.of(person, this.t);
    const { expires, cut, revoked } = this.altered;
    if (expires.size === 0 && cut.length === 0 && !this.marked.has(person)) {
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

  ofCrowd(kind: "open" | "house"): Effect {
    const own = this[kind];
    if (own.before === own.after) return { loses: [], keeps: [], gains: [], waysLeft: [] };
    return this.compare(this.touched(own.before, own.after), this.opened(own.before, own.after), own, []);
  }

  /** What ways reached before that they reach no more, way by way. */
  private touched(before: WayIn[], after: WayIn[]): Ranges {
    const { cut } = this.altered;
    const stay = new Set(after.map(wayKey));
    const pieces: number[] = [];
    for (const way of before) {
      const { position } = way;
      if (!stay.has(wayKey(way))) pieces.push(...this.rangeOf(position));
      else if (cut.length > 0) pieces.push(...minus(this.rangeOf(position), reachOfWay(this.estate, position, cut)));
    }
    return union(pieces);
  }

  /** What is reached by ways that were not there before. */
  private opened(before: WayIn[], after: WayIn[]): Ranges {
    const known = new Set(before.map(wayKey));
    const fresh = after.filter((way) => !known.has(wayKey(way)));
    return union(fresh.flatMap(({ position }) => reachOfWay(this.estate, position, this.altered.cut)));
  }

  private compare(
    touched: Ranges,
    gained: Ranges,
    { before, after }: { before: WayIn[]; after: WayIn[] },
    crowds: Crowd[],
  ): Effect {
    const { cut } = this.altered;
    const isInto = (ranges: Ranges) => (way: WayIn) =>
      overlaps(ranges, way.position, this.estate.tree.end[way.position]);
    const covered = union(
      after.filter(isInto(touched)).flatMap(({ position }) => reachOfWay(this.estate, position, cut)),
    );
    const loses = crowds.reduce((left, crowd) => minus(left, crowd.coveredAfter), minus(touched, covered));
    const keeps = minus(touched, loses);
    const had = union(before.filter(isInto(gained)).flatMap(({ position }) => this.rangeOf(position)));
    const gains = crowds.reduce((left, crowd) => minus(left, crowd.coveredBefore), minus(gained, had));
    const ownWays = after.filter((way) => this.reaches(way, keeps));
    return { loses, keeps, gains, waysLeft: [...ownWays, ...this.crowdWaysInto(keeps, crowds)] };
  }

  private reaches({ position }: WayIn, ranges: Ranges): boolean {
    return both(reachOfWay(this.estate, position, this.altered.cut), ranges).length > 0;
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
