import type { Estate } from "../estate/estate";
import { grown } from "../estate/grow";
import { textHash } from "../estate/ids";
import { LABELS } from "../estate/records";
import { foldersBelow, hasLabel } from "../estate/tree";
import { stanceOf } from "../rules/parties";
import type { RuleSet } from "../rules/findings";
import type { Scope } from "../rules/scope";

/** Two sums that are mixed with unlike factors: together they tell surroundings apart as a number of 64 bits would. */
interface Sums {
  low: Int32Array;
  high: Int32Array;
}
const LOW = 0x9e3779b1 | 0;
const HIGH = 0x85ebca77 | 0;
const { imul } = Math;

/**
 * What the register asks of the estate around each share, as two numbers a share: where its item stands and what lies
 * below, whom it lets in and who those are. Items that move, people who leave and groups that change leave most shares
 * as they were; only those whose numbers differ need to be worked out again.
 */
export class Surroundings {
  private known: Sums = { low: new Int32Array(0), high: new Int32Array(0) };

  /** Brings the numbers up to date. @returns slots of the shares that have others than before */
  update(estate: Estate, rules: RuleSet): number[] {
    const before = this.known;
    this.known = sumsOf(estate, rules);
    const { low, high } = this.known;
    const changed: number[] = [];
    for (let slot = 0; slot < low.length; slot++)
      if (slot >= before.low.length || low[slot] !== before.low[slot] || high[slot] !== before.high[slot])
        changed.push(slot);
    return changed;
  }

  /** Shares have been told of anew: what they stand in is another matter now. */
  forget(slots: Iterable<number>, length: number) {
    const { low, high } = this.known;
    this.known = { low: grown(low, length), high: grown(high, length) };
    for (const slot of slots) this.known.low[slot] = this.known.high[slot] = UNKNOWN;
  }

  copy(): Surroundings {
    const copy = new Surroundings();
    copy.known = { low: this.known.low.slice(), high: this.known.high.slice() };
    return copy;
  }
}
const UNKNOWN = -1;

function sumsOf(estate: Estate, rules: RuleSet): Sums {
  const { shares, tree, items, principals } = estate;
  const { count, position, download, maker, to, audience, membersFrom, insidersFrom, membersTo } = shares;
  const { end, live, liveBefore, holdsFolder, label, slotAt } = tree;
  const persons = sumsOfPersons(estate);
  const members = runningSums(principals.pool, principals.poolLength, persons);
  const groups = principals.groups.map(({ id, name }) => textHash(`${id} ${name}`));
  const stores = estate.storeNumbers((store) => textHash(JSON.stringify([store.capabilities, store.region, store.id])));
  const marks = marksOf(estate, rules);
  const sums: Sums = { low: new Int32Array(count), high: new Int32Array(count) };
  // One for all shares: this is gone through for each of very many.
  const facts = new Int32Array(11);
  facts[10] = sumOfAll(estate);
  for (let slot = 0; slot < count; slot++) {
    const at = position[slot];
    if (at < 0) continue;
    const behind = end[at];
    const item = slotAt[at];
    let labels = 0;
    for (let one = 0; one < LABELS.length; one++) labels |= Number(hasLabel(tree, one, at, behind)) << one;
    const place = labels | (label[at] << 4) | (live[at] << 8) | (holdsFolder[at] << 9) | (items.kind[item] << 10);
    const [from, inside, last] = [membersFrom[slot], insidersFrom[slot], membersTo[slot]];
    const [by, owner] = [principals.personOf[maker[slot]], estate.ownerAt(at)];
    const group = to[slot] < 0 ? -1 : principals.groupOf[to[slot]];
    facts[0] = place | (download[slot] << 12) | (audience[slot] << 13);
    facts[1] = stores[items.store[item]];
    facts[2] = liveBefore[behind] - liveBefore[at];
    facts[3] = foldersBelow(tree, at);
    facts[4] = marks === null ? 0 : marks[at];
    facts[5] = by;
    facts[6] = owner;
    facts[7] = group < 0 ? 0 : groups[group];
    facts[8] = inside - from;
    facts[9] = last - from;
    let low = mixed(LOW, facts);
    let high = mixed(HIGH, facts);
    low += members.low[last] - members.low[from];
    high += members.high[last] - members.high[from];
    if (by >= 0) [low, high] = [low ^ persons.low[by], high ^ persons.high[by]];
    if (owner >= 0) [low, high] = [low + imul(persons.low[owner], 3), high + imul(persons.high[owner], 3)];
    sums.low[slot] = low;
    sums.high[slot] = high;
  }
  return sums;
}

function mixed(factor: number, facts: ArrayLike<number>): number {
  let sum = factor;
  for (let i = 0; i < facts.length; i++) {
    sum = imul(sum ^ facts[i], factor);
    sum ^= sum >>> 15;
  }
  return sum;
}

/** What all shares depend on: who could be taken for whom, and what work there is. */
function sumOfAll({ homeDomains, stances, engagements }: Estate): number {
  const trusted = [...stances].filter(([, stance]) => stance === "trusted").map(([domain]) => domain);
  return textHash(JSON.stringify([homeDomains, trusted.sort(), engagements.map(({ record }) => record)]));
}

function sumsOfPersons(estate: Estate): Sums {
  const { people } = estate;
  const sums: Sums = { low: new Int32Array(people.length), high: new Int32Array(people.length) };
  for (const person of people) {
    const { index, insider, status, name, department, organisation } = person;
    const text = textHash(`${status} ${stanceOf(estate, person)} ${organisation} ${department}`);
    const facts = [index, insider ? 1 : 0, text, textHash(name)];
    sums.low[index] = mixed(LOW, facts);
    sums.high[index] = mixed(HIGH, facts);
  }
  return sums;
}

/** So that the sum over any stretch of the pool is the difference of two. */
function runningSums(pool: Int32Array, length: number, persons: Sums): Sums {
  const sums: Sums = { low: new Int32Array(length + 1), high: new Int32Array(length + 1) };
  for (let i = 0; i < length; i++) {
    sums.low[i + 1] = sums.low[i] + persons.low[pool[i]];
    sums.high[i + 1] = sums.high[i] + persons.high[pool[i]];
  }
  return sums;
}

/** By position: which of the items that rules and work are about it is, or lies below; null where there are none. */
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
