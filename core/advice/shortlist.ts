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
export function shortlist({ candidates, classes }: Choice, factor: number): Shortlist {
  const acts = bestActs(candidates, classes, factor);
  const levelAfter = (share: number): 0 | Level => {
    const act = acts.get(share);
    if (act === "end") return 0;
    return act === "password" ? 2 : candidates[share].level;
  };
  const massBy = (levelOf: (share: number) => number) =>
    classes.reduce((sum, { weight, shares }) => sum + weight * Math.max(...shares.map(levelOf)), 0);
  const priced = [...acts].map(([share, act]) => {
    const { endPrice, passwordPrice } = candidates[share];
    return act === "end" ? endPrice : passwordPrice!;
  });
  return {
    mass: massBy((share) => candidates[share].level),
    left: massBy(levelAfter),
    price: priced.reduce((sum, price) => sum + price, 0),
    acts: [...acts]
      .map(([share, act]) => ({ share: candidates[share].id, act }))
      .sort((a, b) => (a.share < b.share ? -1 : 1)),
  };
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

/** The live files that weigh anything and are reached from outside, by weight and by which shares reach them. */
function classesOf(
  { tree }: Estate,
  candidates: readonly Candidate[],
  isMeant: (position: number) => boolean = () => true,
): FileClass[] {
  const classes = new Map<string, FileClass>();
  const begins = new Map<number, number[]>();
  const ends = new Map<number, number[]>();
  const put = (at: Map<number, number[]>, position: number, share: number) =>
    at.set(position, [...(at.get(position) ?? []), share]);
  for (const [share, { from, to }] of candidates.entries()) {
    put(begins, from, share);
    put(ends, to, share);
  }
  const reaching = new Set<number>();
  let shares: number[] = [];
  for (let position = 0; position < tree.length; position++) {
    const [gone, come] = [ends.get(position), begins.get(position)];
    for (const share of gone ?? []) reaching.delete(share);
    for (const share of come ?? []) reaching.add(share);
    if (gone || come) shares = [...reaching].sort((a, b) => a - b);
    const weight = tree.live[position] === 1 && tree.kindAt(position) === "file" ? WEIGHTS[tree.label[position]] : 0;
    if (weight === 0 || shares.length === 0 || !isMeant(position)) continue;
    const key = shares.join();
    const known = classes.get(key);
    if (known) known.weight += weight;
    else classes.set(key, { weight, shares });
  }
  return [...classes.values()];
}

/** The steps by which a file is shut: from one level to the next, for so many times its weight. */
const STEPS: readonly { from: Level; gain: number }[] = [
  { from: 4, gain: 2 },
  { from: 2, gain: 1 },
  { from: 1, gain: 1 },
];

/** The best acts by share, and of the best the fewest: what is still reached from the source of a minimum cut. */
function bestActs(candidates: readonly Candidate[], classes: readonly FileClass[], factor: number): Map<number, Act> {
  const graph = new FlowGraph<{ share: number; act: Act }>();
  const [source, sink] = [graph.addNode(), graph.addNode()];
  const nodes = candidates.map(({ endPrice, passwordPrice }, share) => {
    const end = graph.addNode();
    graph.addEdge(end, sink, factor * (endPrice - (passwordPrice ?? 0)), { share, act: "end" });
    if (passwordPrice === null) return { end, password: end };
    // To end a link does all that a password does, and costs the rest.
    const password = graph.addNode();
    graph.addEdge(password, sink, factor * passwordPrice, { share, act: "password" });
    graph.addEdge(end, password, Infinity);
    return { end, password };
  });
  for (const { weight, shares } of classes) {
    const highest = Math.max(...shares.map((share) => candidates[share].level));
    for (const { from, gain } of STEPS) {
      if (from > highest) continue;
      const node = graph.addNode();
      graph.addEdge(source, node, THOUSAND * gain * weight);
      for (const share of shares)
        if (candidates[share].level >= from)
          graph.addEdge(node, from === 4 ? nodes[share].password : nodes[share].end, Infinity);
    }
  }
  const acts = new Map<number, Act>();
  for (const { share, act } of graph.minCut(source, sink)!) if (acts.get(share) !== "end") acts.set(share, act);
  return acts;
}
