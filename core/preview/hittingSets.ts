/** What a set costs; of two costs, the one that is less in the first figure in which they differ is less. */
export type Cost = readonly number[];

/** A set that hits every way, of which nothing can be left out. */
export interface HittingSet {
  members: readonly number[];
  cost: Cost;
}

/** The sets found, the cheapest first, and whether there is no cheaper one beside them. */
export interface Found {
  best: HittingSet[];
  isExact: boolean;
}

interface Asked {
  /** Of each way the members that hit it; none of them is empty. */
  ways: readonly (readonly number[])[];
  /** What some members cost together. It never falls as members are added. */
  costOf: (members: readonly number[]) => Cost;
  /** So many sets are wanted. */
  wanted: number;
  /** So many costs may be asked for before the search ends with what it has. */
  limit: number;
  /** Sets that hit every way, to begin with. */
  known: readonly (readonly number[])[];
}

export function compareCosts(a: Cost, b: Cost): number {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return a[i] - b[i];
  return 0;
}

/**
 * The cheapest minimal sets of members that hit every way. All of them are enumerated, each once (a way that is not hit
 * yet branches over its members, of which those that were tried before are out; K. Murakami and T. Uno, "Efficient
 * algorithms for dualizing large-scale hypergraphs", 2014). A branch ends where a member hits nothing by itself any
 * more, and where what it costs so far is no less than the last of the sets that are wanted: costs only rise.
 */
export function cheapestHittingSets(asked: Asked): Found {
  return new Search(asked).run();
}

class Search {
  private readonly best: HittingSet[] = [];
  private readonly costs = new Map<string, Cost>();
  private readonly waysOf = new Map<number, number[]>();
  private readonly alone: Map<number, Cost>;
  /** By way: how many of the chosen members hit it. */
  private readonly hits: Int32Array;
  private readonly chosen: number[] = [];
  private readonly out = new Set<number>();
  private left: number;

  constructor(private readonly asked: Asked) {
    this.hits = new Int32Array(asked.ways.length);
    this.left = asked.limit;
    for (const [way, members] of asked.ways.entries())
      for (const member of members) this.waysOf.set(member, [...(this.waysOf.get(member) ?? []), way]);
    this.alone = new Map([...this.waysOf.keys()].map((member) => [member, asked.costOf([member])]));
  }

  run(): Found {
    for (const members of this.asked.known) this.keep(this.minimal(members));
    this.branch();
    return { best: this.best, isExact: this.left > 0 };
  }

  private branch() {
    if (this.left <= 0 || this.chosen.some((member) => !this.hitsAlone(member)) || this.isTooDear()) return;
    const way = this.nextWay();
    if (way === null) return this.keep([...this.chosen]);
    const members = way.filter((member) => !this.out.has(member));
    members.sort((a, b) => compareCosts(this.alone.get(a)!, this.alone.get(b)!));
    for (const member of members) {
      this.choose(member, 1);
      this.branch();
      this.choose(member, -1);
      this.out.add(member);
    }
    for (const member of members) this.out.delete(member);
  }

  private choose(member: number, by: 1 | -1) {
    if (by === 1) this.chosen.push(member);
    else this.chosen.pop();
    for (const way of this.waysOf.get(member)!) this.hits[way] += by;
  }

  /** Of the ways that are not hit, one with the fewest members left; null where all are hit. */
  private nextWay(): readonly number[] | null {
    let next: readonly number[] | null = null;
    let fewest = Infinity;
    for (const [way, members] of this.asked.ways.entries()) {
      if (this.hits[way] > 0) continue;
      const count = members.filter((member) => !this.out.has(member)).length;
      if (count < fewest) [next, fewest] = [members, count];
    }
    return next;
  }

  private hitsAlone(member: number): boolean {
    return this.waysOf.get(member)!.some((way) => this.hits[way] === 1);
  }

  /** By the greatest cost of any member alone, which asks for nothing new; and only then by that of all together. */
  private isTooDear(): boolean {
    const last = this.best.length < this.asked.wanted ? undefined : this.best[this.best.length - 1];
    if (!last || this.chosen.length === 0) return false;
    const isTooDear = (cost: Cost) => compareCosts(cost, last.cost) >= 0;
    return this.chosen.some((member) => isTooDear(this.alone.get(member)!)) || isTooDear(this.costOf(this.chosen));
  }

  /** The same set without what others make superfluous, the dearest looked at first. */
  private minimal(members: readonly number[]): number[] {
    const left = new Set(members);
    const dearest = [...left].sort((a, b) => compareCosts(this.alone.get(b)!, this.alone.get(a)!));
    for (const one of dearest) {
      const isNeeded = this.waysOf
        .get(one)!
        .some((way) => this.asked.ways[way].filter((m) => left.has(m)).length === 1);
      if (!isNeeded) left.delete(one);
    }
    return [...left];
  }

  private keep(members: number[]) {
    const sorted = members.sort((a, b) => a - b);
    if (this.best.some((one) => one.members.join() === sorted.join())) return;
    const cost = this.costOf(sorted);
    let at = this.best.length;
    while (at > 0 && compareCosts(cost, this.best[at - 1].cost) < 0) at--;
    this.best.splice(at, 0, { members: sorted, cost });
    if (this.best.length > this.asked.wanted) this.best.pop();
  }

  private costOf(members: readonly number[]): Cost {
    if (members.length === 1) return this.alone.get(members[0])!;
    const key = [...members].sort((a, b) => a - b).join();
    let cost = this.costs.get(key);
    if (cost === undefined) {
      this.left--;
      this.costs.set(key, (cost = this.asked.costOf(members)));
    }
    return cost;
  }
}
