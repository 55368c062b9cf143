import type { Estate } from "../estate/estate";
import { grown } from "../estate/grow";
import { textHash } from "../estate/ids";
import { LABELS } from "../estate/records";
import { foldersBelow, hasLabel, liveBetween } from "../estate/tree";
import { stanceOf } from "../rules/parties";
import type { RuleSet } from "../rules/findings";
import type { Scope } from "../rules/scope";

/** Two sums mixed with different factors: together they distinguish as well as a number of 64 bits would. */
interface Sums {
  low: Int32Array;
  high: Int32Array;
}
const LOW = 0x9e3779b1 | 0;
const HIGH = 0x85ebca77 | 0;
const { imul } = Math;

/** What is kept of surroundings, by slot of the share. */
interface Known {
  places: Sums;
  audiences: Sums;
}

/**
 * What the register asks of the estate around each share, as two numbers a share for its place and two for its audience:
 * where its item stands and what lies below; whom it lets in and who those are. Items that move, people who leave and
 * groups that change leave most shares as they were; only those whose numbers differ need to be worked out again.
 */
export class Surroundings {
  constructor(private known: Known = { places: sums(0), audiences: sums(0) }) {}

  /**
   * Brings the numbers up to date. @param moved whether anything but groups may be other than before
   * @returns slots of the shares that have others than before
   */
  update(estate: Estate, rules: RuleSet, moved: boolean): number[] {
    const before = this.known;
    this.known = {
      places: moved ? sumsOfPlaces(estate, rules) : before.places,
      audiences: sumsOfAudiences(estate),
    };
    const { places, audiences } = this.known;
    const changed: number[] = [];
    for (let slot = 0; slot < estate.shares.count; slot++)
      if (differs(audiences, before.audiences, slot) || differs(places, before.places, slot)) changed.push(slot);
    return changed;
  }

  /** Shares have new records, so what is known of their audiences is out of date. */
  forget(slots: Iterable<number>, length: number) {
    const { low, high } = this.known.audiences;
    const [longerLow, longerHigh] = [grown(low, length), grown(high, length)];
    for (const slot of slots) longerLow[slot] = longerHigh[slot] = UNKNOWN;
    this.known = { places: this.known.places, audiences: { low: longerLow, high: longerHigh } };
  }

  copy(): Surroundings {
    const { places, audiences } = this.known;
    // Places are only ever replaced as a whole.
    return new Surroundings({ places, audiences: { low: audiences.low.slice(), high: audiences.high.slice() } });
  }

  /** The numbers, to be kept and given to others later. */
  columns(): Known {
    return this.known;
  }
}
const UNKNOWN = -1;

function sums(length: number): Sums {
  return { low: new Int32Array(length), high: new Int32Array(length) };
}

function differs({ low, high }: Sums, before: Sums, slot: number): boolean {
  return low[slot] !== before.low[slot] || high[slot] !== before.high[slot];
}

function sumsOfPlaces(estate: Estate, rules: RuleSet): Sums {
  const { shares, tree, items } = estate;
  const { end, live, holdsFolder, label, slotAt } = tree;
  const stores = estate.storeNumbers((store) => textHash(JSON.stringify([store.capabilities, store.region, store.id])));
  const marks = marksOf(estate, rules);
  const found = sums(shares.count);
  // One array for all shares: this loop runs for very many.
  const facts = new Int32Array(6);
  facts[0] = sumOfAll(estate);
  for (let slot = 0; slot < shares.count; slot++) {
    const at = shares.position[slot];
    if (at < 0) continue;
    const behind = end[at];
    const item = slotAt[at];
    let labels = 0;
    for (let one = 0; one < LABELS.length; one++) labels |= Number(hasLabel(tree, one, at, behind)) << one;
    facts[1] = labels | (label[at] << 4) | (live[at] << 8) | (holdsFolder[at] << 9) | (items.kind[item] << 10);
    facts[2] = stores[items.store[item]];
    facts[3] = liveBetween(tree, at, behind);
    facts[4] = foldersBelow(tree, at);
    facts[5] = marks === null ? 0 : marks[at];
    found.low[slot] = mixed(LOW, facts);
    found.high[slot] = mixed(HIGH, facts);
  }
  return found;
}

function sumsOfAudiences(estate: Estate): Sums {
  const { shares, principals } = estate;
  const { count, position, download, maker, to, audience, membersFrom, insidersFrom, membersTo } = shares;
  const persons = sumsOfPersons(estate);
  const members = runningSums(principals.pool, principals.poolLength, persons);
  const groups = principals.groups.map(({ id, name }) => textHash(`${id} ${name}`));
  const found = sums(count);
  const facts = new Int32Array(6);
  for (let slot = 0; slot < count; slot++) {
    if (position[slot] < 0) continue;
    const [from, inside, last] = [membersFrom[slot], insidersFrom[slot], membersTo[slot]];
    const [by, owner] = [principals.personOf[maker[slot]], estate.ownerAt(position[slot])];
    const group = to[slot] < 0 ? -1 : principals.groupOf[to[slot]];
    facts[0] = (download[slot] << 2) | audience[slot];
    facts[1] = by;
    facts[2] = owner;
    facts[3] = group < 0 ? 0 : groups[group];
    facts[4] = inside - from;
    facts[5] = last - from;
    let low = mixed(LOW, facts) + members.low[last] - members.low[from];
    let high = mixed(HIGH, facts) + members.high[last] - members.high[from];
    if (by >= 0) [low, high] = [low ^ persons.low[by], high ^ persons.high[by]];
    if (owner >= 0) [low, high] = [low + imul(persons.low[owner], 3), high + imul(persons.high[owner], 3)];
    found.low[slot] = low;
    found.high[slot] = high;
  }
  return found;
}

function mixed(factor: number, facts: ArrayLike<number>): number {
  let sum = factor;
  for (let i = 0; i < facts.length; i++) {
    sum = imul(sum ^ facts[i], factor);
    sum ^= sum >>> 15;
  }
  return sum;
}

/** What all shares depend on: look-alike domains and engagements. */
function sumOfAll({ homeDomains, stances, engagements }: Estate): number {
  const trusted = [...stances].filter(([, stance]) => stance === "trusted").map(([domain]) => domain);
  return textHash(JSON.stringify([homeDomains, trusted.sort(), engagements.map(({ record }) => record)]));
}

function sumsOfPersons(estate: Estate): Sums {
  const { people } = estate;
  const found = sums(people.length);
  for (const person of people) {
    const { index, insider, status, name, department, organisation } = person;
    const text = textHash(`${status} ${stanceOf(estate, person)} ${organisation} ${department}`);
    const facts = [index, insider ? 1 : 0, text, textHash(name)];
    found.low[index] = mixed(LOW, facts);
    found.high[index] = mixed(HIGH, facts);
  }
  return found;
}

/** So that the sum over any stretch of the pool is the difference of two. */
function runningSums(pool: Int32Array, length: number, persons: Sums): Sums {
  const found = sums(length + 1);
  for (let i = 0; i < length; i++) {
    found.low[i + 1] = found.low[i] + persons.low[pool[i]];
    found.high[i + 1] = found.high[i] + persons.high[pool[i]];
  }
  return found;
}

/** By position: a mark of the items named by rules and engagements that it is or lies below; null where there are none. */
function marksOf({ tree, engagements }: Estate, rules: RuleSet): Int32Array | null {
  const scoped = Object.values(rules).flatMap(({ scope }) => (scope as Scope | undefined)?.items ?? []);
  const tops = new Set(engagements.flatMap(({ positions }) => [...positions]));
  for (const position of scoped.map((id) => tree.position(id))) if (position !== undefined) tops.add(position);
  if (tops.size === 0) return null;
  const marks = new Int32Array(tree.length);
  for (let at = 0; at < marks.length; at++) {
    const above = tree.parent[at];
    marks[at] = above < 0 ? 0 : marks[above];
    if (tops.has(at)) marks[at] = imul(marks[at] ^ tree.slotAt[at], LOW) | 1;
  }
  return marks;
}
