import { countLive, minus, overlaps, type Ranges, union } from "../access/ranges";
import { type WayIn, WaysIn } from "../access/waysIn";
import type { Estate } from "../estate/estate";
import { HOUSE, OPEN } from "../estate/shares";
import { inheritedFrom, withAllBelow } from "../estate/tree";
import type { Seconds } from "../time/instant";
import { alteredBy } from "./altered";
import { type Change, subjectOf } from "./change";
import { type Effects, effectsOf } from "./effects";
import { FlowGraph } from "./maxFlow";
import { someItems, type SomeItems } from "./preview";
import { type SubjectWords, subjectWords } from "./subject";
import { verdictOn } from "./verdict";

/** Whom to keep from what. */
export interface CutTarget {
  /** Person indexes. */
  people: readonly number[];
  position: number;
  /** Whether all that lies below is meant too, inherited or not. */
  below: boolean;
}

/** A change, and how many ways from people to items it would close by itself besides those that are wanted. */
interface PricedChange {
  change: Change;
  loss: number;
}

/** A change of a cut, with what it is about in words. */
export interface CutChange extends PricedChange {
  about: SubjectWords;
}

/** What somebody loses besides what was wanted. */
export interface OtherLoss {
  who: string;
  address: string | null;
  loses: SomeItems;
}

export interface CheapestCut {
  /** Null where nothing closes all ways: then `stays` says what can't be cut. */
  changes: CutChange[] | null;
  /** Ways that no change closes, in words. */
  stays: string[];
  /** What others lose by all the changes together, and the people themselves elsewhere. */
  losses: OtherLoss[];
  /** How many ways from people to items those are. */
  lost: number;
}

/**
 * The set of changes that closes every way of some people to an item, with the least loss besides. Exact:
 * a min-cut over the graph of the ways in, in which each change that would close a way is an edge, as
 * dear as the loss that it would bring alone. A loss is one person who no longer reaches one item; whoever holds
 * the address of an open link counts as one person, the house as all its active people. Among equally
 * dear sets one of the fewest changes is taken.
 */
export function cheapestCut(
  estate: Estate,
  target: CutTarget,
  t: Seconds,
  waysIn: WaysIn = new WaysIn(estate),
): CheapestCut {
  const cut = new Cut(estate, target, t, waysIn);
  const changes = cut.find();
  const altered = alteredBy(estate, changes?.map(({ change }) => change) ?? []);
  const effects = effectsOf(estate, waysIn, altered, t);
  return {
    changes: changes?.map((one) => ({ ...one, about: subjectWords(estate, one.change)! })) ?? null,
    stays: changes === null ? cut.uncuttable() : [],
    losses: cut.otherLosses(effects),
    lost: cut.lossOf(effects),
  };
}

class Cut {
  /** All positions that the people are to be kept from. */
  readonly wanted: Ranges;
  /** The item and those above it that it inherits from, nearest first. */
  private readonly above: number[];
  private readonly graph = new FlowGraph<PricedChange>();
  private readonly nodes = new Map<string, number>();
  private readonly source = this.graph.addNode();
  private readonly sink = this.graph.addNode();
  private readonly priced = new Map<string, PricedChange | null>();

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

  find(): PricedChange[] | null {
    for (const person of this.target.people) {
      const { node } = this.node(`person ${person}`);
      this.graph.addEdge(this.source, node, Infinity);
      for (const way of this.waysOf(person)) this.addWay(person, node, way);
    }
    return this.graph.minCut(this.source, this.sink);
  }

  /** The ways in of a person that lead to what they are to be kept from. */
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
    if (share < 0) {
      this.graph.addEdge(node, place, Infinity);
      return;
    }
    const { node: door, isNew } = this.node(`share ${share}`);
    const shareId = shares.idOf(share);
    if (isNew) this.addCut(door, place, { action: "revoke", shareId });
    const group = shares.to[share] < 0 ? -1 : principals.groupOf[shares.to[share]];
    if (shares.audience[share] === OPEN || shares.audience[share] === HOUSE || (group < 0 && !shares.isLink(share)))
      this.graph.addEdge(node, door, Infinity);
    else if (group < 0) this.addCut(node, door, { action: "drop-recipient", shareId, address: people[person].address });
    else {
      this.addMemberships(person, node);
      this.graph.addEdge(this.group(group), door, Infinity);
    }
  }

  /** All groups that a person is in, with the groups that these are in. */
  private addMemberships(person: number, node: number) {
    if (!this.node(`memberships of ${person}`).isNew) return;
    const { principals, people } = this.estate;
    for (const group of principals.directGroupsOf(person)) {
      const change: Change = {
        action: "leave-group",
        groupId: principals.groups[group].id,
        address: people[person].address,
      };
      this.addCut(node, this.group(group), change);
    }
  }

  /** The node of a group, from which one comes to those that hold it. */
  private group(group: number): number {
    const { node, isNew } = this.node(`group ${group}`);
    const holders = isNew ? this.estate.principals.holdersOf(group) : [];
    for (const holder of holders) this.graph.addEdge(node, this.group(holder), Infinity);
    return node;
  }

  /** The node of a place where a way in sits: the sink where that is wanted, else one that leads on down. */
  private place(position: number): number {
    if (this.isWanted(position)) return this.sink;
    const { node, isNew } = this.node(`place ${position}`);
    if (isNew) {
      const below = this.above[this.above.indexOf(position) - 1];
      this.addCut(node, this.place(below), { action: "stop-inheriting", itemId: this.estate.tree.idAt(below) });
    }
    return node;
  }

  private node(name: string): { node: number; isNew: boolean } {
    const known = this.nodes.get(name);
    if (known !== undefined) return { node: known, isNew: false };
    const node = this.graph.addNode();
    this.nodes.set(name, node);
    return { node, isNew: true };
  }

  private addCut(from: number, to: number, change: Change) {
    const priced = this.price(change);
    this.graph.addEdge(from, to, priced ? priced.loss * MOST_CHANGES + 1 : Infinity, priced);
  }

  /** What a change would cost by itself; null where its store can't do it. */
  private price(change: Change): PricedChange | null {
    const subject = subjectOf(change);
    let priced = this.priced.get(subject);
    if (priced === undefined) {
      const { estate, waysIn, t } = this;
      const can = verdictOn(estate, change, t).can;
      priced = can ? { change, loss: this.lossOf(effectsOf(estate, waysIn, alteredBy(estate, [change]), t)) } : null;
      this.priced.set(subject, priced);
    }
    return priced;
  }

  /** How many ways from people to items are lost besides what is wanted. */
  lossOf({ people, anyone, house }: Effects): number {
    const { tree, principals } = this.estate;
    let loss = countLive(tree, anyone.loses);
    if (house.loses.length > 0) {
      let insiders = 0;
      for (const { index } of this.estate.people) insiders += principals.insider[index] & principals.active[index];
      loss += insiders * countLive(tree, house.loses);
    }
    for (const [person, { loses }] of people) loss += countLive(tree, this.besides(person, loses));
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
    add("Anyone with the address", null, anyone.loses);
    add("Everyone in the house", null, house.loses);
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
        if (share < 0) words.add(`${estate.people[person].name} owns ${name}: that ends only by handing it over.`);
      }
    return [...words];
  }
}

/** More changes than any cut has: so a loss of one more always weighs more than all the changes together. */
const MOST_CHANGES = 2 ** 16;
