import { isOutsideShare } from "../access/live";
import type { Estate } from "../estate/estate";
import { LABELS } from "../estate/records";
import { Share } from "../estate/share";
import { momentOf } from "../rules/judging";
import type { Seconds } from "../time/instant";
import { type Candidate, candidateOf } from "./candidate";
import { finish, type Steps } from "../time/steps";
import { STANDARD_WEIGHING, type Weighing } from "./weighing";

/**
 * The places that outside shares are on. What a share reaches lies within what another reaches or apart from it, so
 * places are a forest; above stands before below.
 */
export interface Places {
  count: number;
  /** The nearest place above from which shares reach this one too, or -1. */
  above: Int32Array;
  /** By place: where its candidates begin; after the last, where they all end. */
  begins: Int32Array;
  /** The weight and the number of the files for which this is the nearest place. */
  weight: Float64Array;
  files: Int32Array;
}

/** What there is to choose from: the outside shares by place, and the files that they open. */
export interface Choice {
  candidates: readonly Candidate[];
  places: Places;
}

/** Whether a file, by its position, counts. */
export type IsMeant = (position: number) => boolean;

/** How many shares, or items, are looked at in one piece. */
const PIECE = 1 << 13;

/** @param isMeant which files count; all by default */
export function choiceAt(
  estate: Estate,
  t: Seconds,
  weighing: Weighing = STANDARD_WEIGHING,
  isMeant?: IsMeant,
): Choice {
  return finish(choiceSteps(estate, t, weighing, isMeant));
}

export function* choiceSteps(
  estate: Estate,
  t: Seconds,
  weighing: Weighing,
  isMeant: IsMeant = () => true,
): Steps<Choice> {
  const candidates = yield* candidateSteps(estate, t, weighing);
  const at = Int32Array.from(candidates, ({ slot }) => estate.shares.position[slot]);
  yield;
  const places = placesOf(estate, candidates, at);
  yield;
  yield* weighSteps(estate, places, at, weighing, isMeant);
  return { candidates, places };
}

/** By position, and on each by slot. */
function* candidateSteps(estate: Estate, t: Seconds, weighing: Weighing): Steps<Candidate[]> {
  const moment = momentOf(estate, t);
  const { nextOnItem } = estate.shares;
  const found: Candidate[] = [];
  for (let position = 0; position < estate.tree.length; position++) {
    if (position % PIECE === PIECE - 1) yield;
    const here: Candidate[] = [];
    for (let slot = estate.firstShareAt(position); slot >= 0; slot = nextOnItem[slot]) {
      const share = new Share(estate, slot);
      if (isOutsideShare(estate, share, t)) here.push(candidateOf(moment, share, weighing));
    }
    for (const one of here.sort((a, b) => a.slot - b.slot)) found.push(one);
  }
  return found;
}

/** @param at the positions of the candidates, rising */
function placesOf({ tree }: Estate, candidates: readonly Candidate[], at: Int32Array): Places {
  const begins: number[] = [];
  for (let n = 0; n < at.length; n++) if (n === 0 || at[n] !== at[n - 1]) begins.push(n);
  const count = begins.length;
  const above = new Int32Array(count);
  const around: number[] = [];
  for (let place = 0; place < count; place++) {
    while (around.length > 0 && tree.end[at[begins[around[around.length - 1]]]] <= at[begins[place]]) around.pop();
    above[place] = around[around.length - 1] ?? -1;
    around.push(place);
  }
  begins.push(candidates.length);
  return {
    count,
    above,
    begins: Int32Array.from(begins),
    weight: new Float64Array(count),
    files: new Int32Array(count),
  };
}

/** Adds every file to the nearest place that reaches it. */
function* weighSteps(
  { tree }: Estate,
  { count, above, begins, weight, files }: Places,
  at: Int32Array,
  { weights }: Weighing,
  isMeant: IsMeant,
): Steps<void> {
  const byLabel = LABELS.map((label) => weights[label]);
  let looked = 0;
  for (let place = 0; place < count; place++) {
    const next = place + 1 < count ? at[begins[place + 1]] : tree.length;
    let nearest = place;
    for (let position = at[begins[place]]; position < next; position++) {
      while (nearest >= 0 && tree.end[at[begins[nearest]]] <= position) nearest = above[nearest];
      if (nearest < 0) break;
      if (++looked % PIECE === 0) yield;
      if (tree.live[position] === 0 || tree.kindAt(position) !== "file") continue;
      const heavy = byLabel[tree.label[position]];
      if (heavy === 0 || !isMeant(position)) continue;
      weight[nearest] += heavy;
      files[nearest]++;
    }
  }
}
