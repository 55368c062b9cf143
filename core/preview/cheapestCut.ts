import { countLive, minus, overlaps, type Ranges, union } from "../access/ranges";
import { type WayIn, WaysIn } from "../access/waysIn";
import type { Estate } from "../estate/estate";
import { HOUSE, OPEN } from "../estate/shares";
import { inheritedFrom, withAllBelow } from "../estate/tree";
import type { Seconds } from "../time/instant";
import { alteredBy } from "../changes/altered";
import { type Change, subjectOf } from "../changes/change";
import { type Effects, effectsOf } from "./effects";
import { cheapestHittingSets, type Cost } from "./hittingSets";
import { FlowGraph } from "./maxFlow";
import { someItems, type SomeItems } from "./preview";
import { type SubjectWords, subjectWords } from "../changes/subject";
import { verdictOn } from "../changes/verdict";

/** Whom to keep from what. */
export interface CutTarget {
  /** Person indexes. */
  people: readonly number[];
  position: number;
  /** Whether everything below is included, inherited or not. */
  below: boolean;
}

/** How many ways from people to items are closed in addition to the intended ones. */
export interface Loss {
  /** For our own people. */
  insiders: number;
  /** For everybody else; all holders of an open link's address count as one person. */
  outsiders: number;
}

/** A change, and what it alone would close in addition. */
interface PricedChange {
  change: Change;
  loss: Loss;
}

/** A change of a cut, with its subject in words. */
export interface CutChange extends PricedChange {
  about: SubjectWords;
}

/** What somebody loses in addition to what was intended. */
export interface OtherLoss {
  who: string;
  address: string | null;
  loses: SomeItems;
}

/** A set of changes that closes every way, and what they close together in addition. */
export interface CutSet {
  changes: CutChange[];
  loss: Loss;
}

export interface CheapestCut {
  /** Null where no set closes all ways; `stays` then says which can't be closed. */
  cheapest: CutSet | null;
  /** The next best sets, at most two of them. */
  next: CutSet[];
  /** Whether it is certain that no set costs less than the cheapest. */
  isExact: boolean;
  /** Ways that no change closes, in words. */
  stays: string[];
  /** What others lose by the cheapest set as a whole, and what the people themselves lose elsewhere. */
  losses: OtherLoss[];
}

const WANTED = 3;
/** How many sets are examined: fewer in a large estate, where each takes longer, but at least `LEAST_SETS`. */
const MOST_SETS = 5_000;
const LEAST_SETS = 200;
const SHARES_TIMES_SETS = 20_000_000;

/**
 * The sets of changes that close every way of some people to an item with the least loss to others. The loss is counted
 * for all changes together: one alone may cost nothing, because another way is left, and two may cost much. What insiders
 * lose counts first, then what everybody else loses, and then how many changes it takes.
 *
 * Each way has to be closed by one of the changes on it. All minimal sets of changes are examined, the
 * cheapest branches first, up to a limit; the search begins with a minimal cut of the graph of the ways in, in which
 * each change is an edge that costs what it takes alone. If the limit is reached, the result says that it is the best found.
 *
 * A loss is one person who no longer reaches one item; whoever holds the address of an open link counts as one
 * outsider, the house as all its active people.
 */
export function cheapestCut(
  estate: Estate,
  target: CutTarget,
  t: Seconds,
  waysIn: WaysIn = new WaysIn(estate),
): CheapestCut {
  const cut = new Cut(estate, target, t, waysIn);
  const found = cut.find();
  if (found === null) return { cheapest: null, next: [], isExact: true, stays: cut.uncuttable(), losses: [] };
  const [cheapest, ...next] = found.sets;
  const altered = alteredBy(
    estate,
    cheapest.changes.map(({ change }) => change),
  );
  return {
    cheapest,
    next,
    isExact: found.isExact,
    stays: [],
    losses: cut.otherLosses(effectsOf(estate, waysIn, altered, t)),
  };
}

class Cut {
  /** All positions that the people must not reach. */
  readonly wanted: Ranges;
  /** The item and those above it that it inherits from, nearest first. */
  private readonly above: number[];
  private readonly graph = new FlowGraph<number>();
  private readonly nodes = new Map<string, number>();
  private readonly source = this.graph.addNode();
  private readonly sink = this.graph.addNode();
  /** The changes that can be part of a set, by number; and the number by subject, null where the store can't make it. */
  private readonly changes: PricedChange[] = [];
  private readonly numbers = new Map<string, number | null>();
  /** For each way, the numbers of the changes that close it. */
  private readonly ways: number[][] = [];

  constructor(
    private readonly estate: Estate,
    private readonly target: CutTarget,
    private readonly t: Seconds,
    private readonly waysIn: WaysIn,
  ) {
    const { tree } = estate;
    this.above = inheritedFrom(tree, target.position);
    this.wanted = target.below
      ? union(withAllBelow(tree, target.position).flatMap((at) => [at, at + 1]))
      : [target.position, target.position + 1];
  }

  private isWanted(position: number): boolean {
    return this.estate.tree.live[position] === 1 && overlaps(this.wanted, position, position + 1);
  }

  /** Null where no change closes some way. */
  find(): { sets: CutSet[]; isExact: boolean } | null {
    for (const person of this.target.people) {
      const { node } = this.node(`person ${person}`);
      this.graph.addEdge(this.source, node, Infinity);
      for (const way of this.waysOf(person)) this.addWay(person, node, way);
    }
    if (this.ways.some((changes) => changes.length === 0)) return null;
    const known = this.graph.minCut(this.source, this.sink) ?? [];
    const { best, isExact } = cheapestHittingSets({
      ways: this.ways,
      costOf: (members) => this.costOf(members),
      wanted: WANTED,
      limit: Math.max(LEAST_SETS, Math.min(MOST_SETS, Math.floor(SHARES_TIMES_SETS / (this.estate.shares.count + 1)))),
      known: [known],
    });
    return { sets: best.map(({ members, cost }) => this.setOf(members, cost)), isExact };
  }

  private setOf(members: readonly number[], [insiders, outsiders]: Cost): CutSet {
    const changes = members.map((number) => this.changes[number]);
    return {
      changes: changes.map((one) => ({ ...one, about: subjectWords(this.estate, one.change)! })),
      loss: { insiders, outsiders },
    };
  }

  private costOf(members: readonly number[]): Cost {
    const { insiders, outsiders } =
      members.length === 1
        ? this.changes[members[0]].loss
        : this.lossOf(members.map((number) => this.changes[number].change));
    return [insiders, outsiders, members.length];
  }

  /** A person's ways in to what they must not reach. */
  private waysOf(person: number): WayIn[] {
    if (this.estate.tree.live[this.target.position] === 0) return [];
    const { insider, active } = this.estate.principals;
    const above = new Set(this.above);
    const isHouse = insider[person] === 1 && active[person] === 1;
    return [
      ...this.waysIn.of(person, this.t),
      ...this.waysIn.crowdAt("open", this.t).ways,
      ...(isHouse ? this.waysIn.crowdAt("house", this.t).ways : []),
    ].filter(({ position }) => above.has(position) || this.isWanted(position));
  }

  private addWay(person: number, node: number, { share, position }: WayIn) {
    const { shares, principals, people } = this.estate;
    const place = this.place(position);
    const passed = this.passed(position);
    if (share < 0) {
      this.graph.addEdge(node, place, Infinity);
      this.ways.push(passed);
      return;
    }
    const shareId = shares.idOf(share);
    const revoke = this.number({ action: "revoke", shareId });
    const { node: door, isNew } = this.node(`share ${share}`);
    if (isNew) this.addCut(door, place, revoke);
    const closedBy = (...numbers: (number | null)[]) =>
      this.ways.push([...[revoke, ...numbers].filter((one) => one !== null), ...passed]);
    const group = shares.to[share] < 0 ? -1 : principals.groupOf[shares.to[share]];
    if (shares.audience[share] === OPEN || shares.audience[share] === HOUSE || (group < 0 && !shares.isLink(share))) {
      this.graph.addEdge(node, door, Infinity);
      closedBy();
    } else if (group < 0) {
      const drop = this.number({ action: "drop-recipient", shareId, address: people[person].address });
      this.addCut(node, door, drop);
      closedBy(drop);
    } else {
      this.addMemberships(person, node);
      this.graph.addEdge(this.group(group), door, Infinity);
      for (const direct of principals.directGroupsOf(person))
        if (this.leadsTo(direct, group)) closedBy(this.leaving(person, direct));
    }
  }

  /** Whether one group is another, or is nested in it at any depth. */
  private leadsTo(from: number, to: number): boolean {
    const reached = new Set([from]);
    for (const one of reached) for (const holder of this.estate.principals.holdersOf(one)) reached.add(holder);
    return reached.has(to);
  }

  private leaving(person: number, group: number): number | null {
    const { principals, people } = this.estate;
    const groupId = principals.groups[group].id;
    return this.number({ action: "leave-group", groupId, address: people[person].address });
  }

  /** All groups that a person is in, directly or through other groups. */
  private addMemberships(person: number, node: number) {
    if (!this.node(`memberships of ${person}`).isNew) return;
    for (const group of this.estate.principals.directGroupsOf(person))
      this.addCut(node, this.group(group), this.leaving(person, group));
  }

  /** The node of a group, which leads to the groups that contain it. */
  private group(group: number): number {
    const { node, isNew } = this.node(`group ${group}`);
    const holders = isNew ? this.estate.principals.holdersOf(group) : [];
    for (const holder of holders) this.graph.addEdge(node, this.group(holder), Infinity);
    return node;
  }

  /** The node of a place with a way in: the sink if the place is a target, otherwise one that leads further down. */
  private place(position: number): number {
    if (this.isWanted(position)) return this.sink;
    const { node, isNew } = this.node(`place ${position}`);
    if (isNew) this.addCut(node, this.place(this.below(position)), this.stopping(this.below(position)));
    return node;
  }

  /** The next on the way down from a place to the item. */
  private below(position: number): number {
    return this.above[this.above.indexOf(position) - 1];
  }

  private stopping(position: number): number | null {
    return this.number({ action: "stop-inheriting", itemId: this.estate.tree.idAt(position) });
  }

  /** Numbers of the changes that stop inheritance from a place. */
  private passed(position: number): number[] {
    const numbers: number[] = [];
    for (let at = position; !this.isWanted(at); at = this.below(at)) {
      const number = this.stopping(this.below(at));
      if (number !== null) numbers.push(number);
    }
    return numbers;
  }

  private node(name: string): { node: number; isNew: boolean } {
    const known = this.nodes.get(name);
    if (known !== undefined) return { node: known, isNew: false };
    const node = this.graph.addNode();
    this.nodes.set(name, node);
    return { node, isNew: true };
  }

  private addCut(from: number, to: number, number: number | null) {
    this.graph.addEdge(from, to, number === null ? Infinity : priceOf(this.changes[number].loss), number);
  }

  /** The number of a change; null where its store can't make it. */
  private number(change: Change): number | null {
    const subject = subjectOf(change);
    let number = this.numbers.get(subject);
    if (number === undefined) {
      const can = verdictOn(this.estate, change, this.t).can;
      number = can ? this.changes.push({ change, loss: this.lossOf([change]) }) - 1 : null;
      this.numbers.set(subject, number);
    }
    return number;
  }

  /** What some changes close together in addition to what is intended. */
  private lossOf(changes: readonly Change[]): Loss {
    const { estate, waysIn, t } = this;
    return this.counted(effectsOf(estate, waysIn, alteredBy(estate, changes), t));
  }

  private counted({ people, anyone, house }: Effects): Loss {
    const { tree, principals } = this.estate;
    const loss = { insiders: 0, outsiders: countLive(tree, anyone.loses) };
    if (house.loses.length > 0) {
      let insiders = 0;
      for (const { index } of this.estate.everybody) insiders += principals.insider[index] & principals.active[index];
      loss.insiders += insiders * countLive(tree, house.loses);
    }
    for (const [person, { loses }] of people)
      loss[principals.insider[person] === 1 ? "insiders" : "outsiders"] += countLive(tree, this.besides(person, loses));
    return loss;
  }

  private besides(person: number, loses: Ranges): Ranges {
    return this.target.people.includes(person) ? minus(loses, this.wanted) : loses;
  }

  otherLosses({ people, anyone, house }: Effects): OtherLoss[] {
    const { estate } = this;
    const losses: OtherLoss[] = [];
    const add = (who: string, address: string | null, ranges: Ranges) => {
      const loses = someItems(estate, ranges);
      if (loses.count > 0) losses.push({ who, address, loses });
    };
    add("Whoever has the address", null, anyone.loses);
    add("All our own people", null, house.loses);
    for (const [person, { loses }] of people)
      add(estate.people[person].name, estate.people[person].address, this.besides(person, loses));
    return losses.sort((a, b) => b.loses.count - a.loses.count);
  }

  /** Ways that no change closes. */
  uncuttable(): string[] {
    const { estate } = this;
    const words = new Set<string>();
    for (const person of this.target.people)
      for (const { share, position } of this.waysOf(person)) {
        const name = estate.tree.nameAt(position);
        if (share < 0) words.add(`${estate.people[person].name} owns ${name}: that only ends by handing it over.`);
      }
    return [...words];
  }
}

/**
 * A loss as one number, to begin the search with: an insider's weighs more than many of others, and one more of any
 * more than one change more. It stays below what a minimal cut can add up.
 */
function priceOf({ insiders, outsiders }: Loss): number {
  return Math.min(insiders, 2 ** 18) * 2 ** 26 + Math.min(outsiders, 2 ** 16) * 2 ** 10 + 1;
}
