import { isAtOrBelow } from "../estate/tree";
import type { Estate } from "../estate/estate";
import { storeAt } from "../estate/estate";
import { canHavePassword } from "../changes/latches";
import { FlowGraph } from "../preview/maxFlow";
import { isOpenLink, type Judged } from "../rules/judged";
import { judge } from "../rules/judging";
import { DAY, type Seconds } from "../time/instant";

export const ACTS = ["end", "password"] as const;
export type Act = (typeof ACTS)[number];

/** The acts that shut the most for a price, and what they leave. */
export interface Shortlist {
  /** What is open in all, and what is left of it afterwards. */
  mass: number;
  left: number;
  price: number;
  /** At most one a share, sorted by its id. */
  acts: { share: string; act: Act }[];
}

/** By label: how much it weighs that a file is open. Folders and spaces weigh nothing. */
const WEIGHTS = [0, 1, 4, 16] as const;
/** How far a share is open: without a password for anyone, for anyone with it or for who should have nothing, else. */
type Level = 1 | 2 | 4;
/** A share that was used within so long is dearer to touch. */
const USED_WITHIN: Seconds = 45 * DAY;
/** Factors have up to three places: everything is counted in thousandths. */
const THOUSAND = 1_000;

/** A share that leads outside, with what it would take to shut it. */
interface Candidate {
  id: string;
  level: Level;
  endPrice: number;
  /** Null where it can't be given a password, or has one. */
  passwordPrice: number | null;
  /** Positions that it reaches: from one on, up to but not including another. */
  from: number;
  to: number;
}

/** Files that weigh the same and are reached by the same shares count as one, so many times. */
interface FileClass {
  weight: number;
  shares: readonly number[];
}

/** What there is to choose from: the outside shares, and the files that they open. */
export interface Choice {
  candidates: readonly Candidate[];
  classes: readonly FileClass[];
}

/** @param isMeant whether a file, by its position, counts; all do where it is left out */
export function choiceAt(estate: Estate, t: Seconds, isMeant?: (position: number) => boolean): Choice {
  const candidates = candidatesOf(estate, t);
  return { candidates, classes: classesOf(estate, candidates, isMeant) };
}

/**
 * Which changes shut the most and disturb the least: the set of acts with the greatest `mass taken away − factor ×
 * price`, and of the best sets the smallest. It is a selection problem, solved exactly by a minimum cut
 * (J.-C. Picard, "Maximal closure of a graph", 1976): each gain needs the acts without which it isn't there.
 * @param factor in thousandths: how much mass one unit of price has to take away
 */
export function shortlist(choice: Choice, factor: number): Shortlist {
  const acts = new Selection(choice).actsAt(factor);
  const { left, price } = pointOf(choice, factor, acts);
  const told: Shortlist["acts"] = [];
  for (const [at, { id }] of choice.candidates.entries())
    if (acts[at] !== NO_ACT) told.push({ share: id, act: acts[at] === END ? "end" : "password" });
  return { mass: massOf(choice), left, price, acts: told.sort((a, b) => (a.share < b.share ? -1 : 1)) };
}

/** What the shortlist for one factor comes to. */
export interface Point {
  /** In thousandths. */
  factor: number;
  left: number;
  price: number;
  changes: number;
}

/**
 * What the shortlists for some factors come to. They are nested: from the lowest factor on, what flowed for one goes on
 * flowing for the next, so that many take little longer than one.
 * @param factors in thousandths @returns a point for each, in their order
 */
export function frontier(choice: Choice, factors: readonly number[]): Point[] {
  const selection = new Selection(choice);
  const rising = [...new Set(factors)].sort((a, b) => a - b);
  const points = new Map(rising.map((factor) => [factor, pointOf(choice, factor, selection.actsAt(factor))]));
  return factors.map((factor) => points.get(factor)!);
}

function pointOf(choice: Choice, factor: number, acts: ActCodes): Point {
  const levels = new Uint8Array(acts.length);
  let [price, changes] = [0, 0];
  for (const [at, { level, endPrice, passwordPrice }] of choice.candidates.entries()) {
    levels[at] = acts[at] === NO_ACT ? level : acts[at] === END ? 0 : 2;
    if (acts[at] === NO_ACT) continue;
    price += acts[at] === END ? endPrice : passwordPrice!;
    changes++;
  }
  return { factor, left: massOf(choice, levels), price, changes };
}

/** By candidate: what is done with it. */
type ActCodes = Uint8Array;
const [NO_ACT, PASSWORD, END] = [0, 1, 2];

/** How much is open. @param levels by candidate, where they are not as they stand */
export function massOf({ candidates, classes }: Choice, levels?: ArrayLike<number>): number {
  const of = levels ?? Uint8Array.from(candidates, ({ level }) => level);
  let mass = 0;
  for (const { weight, shares } of classes) {
    let highest = 0;
    for (const share of shares) highest = Math.max(highest, of[share]);
    mass += weight * highest;
  }
  return mass;
}

function candidatesOf(estate: Estate, t: Seconds): Candidate[] {
  const { moment, shares } = judge(estate, t);
  return shares
    .filter(({ outside }) => outside)
    .map((judged) => {
      const { share } = judged;
      const isOpen = isOpenLink(judged);
      const isUsed = share.lastUsed !== null && share.lastUsed >= t - USED_WITHIN;
      const stances = [...judged.outsiders].map((index) => moment.stanceOf(estate.people[index]));
      const isUnwanted = stances.some((stance) => stance === "personal" || stance === "denied");
      const canLock =
        isOpen && !share.hasPassword && canHavePassword(share, storeAt(estate, share.position).capabilities);
      return {
        id: share.id,
        level: isOpen ? (share.hasPassword ? 2 : 4) : isUnwanted ? 2 : 1,
        endPrice: 1 + (isUsed ? 4 : 0) + (isOfRunningWork(estate, judged, t) ? 16 : 0),
        passwordPrice: canLock ? 1 + (isUsed ? 1 : 0) : null,
        from: share.position,
        to: estate.tree.end[share.position],
      };
    });
}

/** Whether it belongs to an engagement that runs: it is on, or below, one of its items, and for anyone or for its people. */
function isOfRunningWork(estate: Estate, { share, outsiders }: Judged, t: Seconds): boolean {
  return estate.engagements.some(
    ({ starts, ends, positions, organisations }) =>
      starts <= t &&
      t < ends &&
      isAtOrBelow(estate.tree, share.position, positions) &&
      (share.audience === "open" || outsiders.some((index) => organisations.has(estate.people[index].organisation))),
  );
}

/**
 * The live files that weigh anything and are reached from outside, by which shares reach them. What shares reach lies
 * within or apart from what others reach, so those that reach a place are a stack.
 */
function classesOf(
  { tree }: Estate,
  candidates: readonly Candidate[],
  isMeant: (position: number) => boolean = () => true,
): FileClass[] {
  const classes: (FileClass & { to: number })[] = [];
  const open: typeof classes = [];
  const order = [...candidates.keys()].sort((a, b) => candidates[a].from - candidates[b].from);
  let next = 0;
  for (let position = 0; position < tree.length; position++) {
    while (open.length > 0 && open[open.length - 1].to <= position) open.pop();
    for (; next < order.length && candidates[order[next]].from === position; next++) {
      const shares = [...(open[open.length - 1]?.shares ?? []), order[next]];
      open.push({ weight: 0, shares, to: candidates[order[next]].to });
      classes.push(open[open.length - 1]);
    }
    if (open.length === 0 || tree.live[position] === 0 || tree.kindAt(position) !== "file") continue;
    const weight = WEIGHTS[tree.label[position]];
    if (weight > 0 && isMeant(position)) open[open.length - 1].weight += weight;
  }
  return classes.filter(({ weight }) => weight > 0);
}

/** The steps by which a file is shut: from one level to the next, for so many times its weight. */
const STEPS: readonly { from: Level; gain: number }[] = [
  { from: 4, gain: 2 },
  { from: 2, gain: 1 },
  { from: 1, gain: 1 },
];

/** The graph whose minimum cut parts the acts to choose from the others. */
class Selection {
  private readonly graph = new FlowGraph<{ share: number; code: number }>();
  private readonly source = this.graph.addNode();
  private readonly sink = this.graph.addNode();
  /** The edges by which acts cost something, with their prices. */
  private readonly costs: { edge: number; price: number }[] = [];
  private factor = 0;
  private readonly count: number;

  constructor({ candidates, classes }: Choice) {
    this.count = candidates.length;
    const { graph, source } = this;
    const nodes = candidates.map(({ endPrice, passwordPrice }, share) => {
      const end = this.addAct({ share, code: END }, endPrice - (passwordPrice ?? 0));
      if (passwordPrice === null) return { end, password: end };
      // To end a link does all that a password does, and costs the rest.
      const password = this.addAct({ share, code: PASSWORD }, passwordPrice);
      graph.addEdge(end, password, Infinity);
      return { end, password };
    });
    for (const { weight, shares } of classes) {
      const highest = shares.reduce((most, share) => Math.max(most, candidates[share].level), 0);
      for (const { from, gain } of STEPS) {
        if (from > highest) continue;
        const node = graph.addNode();
        graph.addEdge(source, node, THOUSAND * gain * weight);
        for (const share of shares)
          if (candidates[share].level >= from)
            graph.addEdge(node, from === 4 ? nodes[share].password : nodes[share].end, Infinity);
      }
    }
  }

  private addAct(act: { share: number; code: number }, price: number): number {
    const node = this.graph.addNode();
    this.costs.push({ edge: this.graph.addEdge(node, this.sink, 0, act), price });
    return node;
  }

  /**
   * The best acts by share, and of the best the fewest: what is still reached from the source of a minimum cut.
   * @param factor not lower than the one before
   */
  actsAt(factor: number): ActCodes {
    for (const { edge, price } of this.costs) this.graph.raise(edge, (factor - this.factor) * price);
    this.factor = factor;
    const acts = new Uint8Array(this.count);
    for (const { share, code } of this.graph.minCut(this.source, this.sink)!) acts[share] = Math.max(acts[share], code);
    return acts;
  }
}
