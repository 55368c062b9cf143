import type { Estate } from "../estate/estate";
import { type Act, actTo, type Degree, DEGREES, LEVELS, priceOf } from "./candidate";
import type { Choice } from "./choice";
import { openOf } from "./open";
import { finish, type Steps } from "../time/steps";

/** The result for one factor. */
export interface Point {
  /** In thousandths: how much mass one unit of price has to take away. */
  factor: number;
  left: number;
  price: number;
  changes: number;
}

/** The acts that shut the most for a price, and what they leave. */
export interface Shortlist extends Point {
  /** By candidate. */
  acts: readonly (Act | null)[];
}

/** Factors have up to three places: everything is counted in thousandths. */
const THOUSAND = 1_000;
const COUNT = DEGREES.length;
/** How many places are looked at in one piece. */
const PIECE = 1 << 14;

/**
 * Which changes shut the most and disturb the least: the set of acts with the greatest `mass taken away − factor ×
 * price`, and of the best sets the smallest. In general that is a minimum cut (J.-C. Picard, "Maximal closure of a
 * graph", 1976). Here shares are on the places of a forest, so the best for a place and all below it follows from the
 * best for each place below, for each degree to which what is above leaves them open (dynamic programming on a tree):
 * exact, and in time that grows with the number of places alone.
 * @param factor in thousandths, a whole number not below 0
 */
export function shortlist(choice: Choice, factor: number): Shortlist {
  return finish(shortlistSteps(choice, factor));
}

export function* shortlistSteps(choice: Choice, factor: number): Steps<Shortlist> {
  const { candidates, places } = choice;
  const { count, above, begins, weight } = places;
  const brought = yield* degreesFor(choice, factor);
  const acts = new Array<Act | null>(candidates.length).fill(null);
  const open = new Uint8Array(count);
  let [left, price, changes] = [0, 0, 0];
  for (let place = 0; place < count; place++) {
    if (place % PIECE === PIECE - 1) yield;
    const from = above[place] < 0 ? 0 : open[above[place]];
    const to = brought[place * COUNT + from] as Degree;
    for (let at = begins[place]; at < begins[place + 1]; at++) {
      const act = (acts[at] = actTo(candidates[at], to));
      if (act === null) continue;
      price += priceOf(candidates[at], act);
      changes++;
    }
    open[place] = Math.max(from, to);
    left += weight[place] * LEVELS[open[place]];
  }
  return { factor, left, price, changes, acts };
}

/** By place, and by the degree to which shares above leave it open: the best degree for its own shares. */
function* degreesFor({ candidates, places }: Choice, factor: number): Steps<Uint8Array> {
  const { count, above, begins, weight } = places;
  const best = new Uint8Array(count * COUNT);
  // The least that a place and all below it can cost: the mass that is left plus factor × price.
  const worth = new Float64Array(count * COUNT);
  const prices = new Float64Array(COUNT);
  for (let place = count - 1; place >= 0; place--) {
    if (place % PIECE === PIECE - 1) yield;
    const row = place * COUNT;
    for (const degree of DEGREES) worth[row + degree] += THOUSAND * weight[place] * LEVELS[degree];
    let highest: Degree = 0;
    prices.fill(0);
    for (let at = begins[place]; at < begins[place + 1]; at++) {
      const candidate = candidates[at];
      if (candidate.degree > highest) highest = candidate.degree;
      for (let to = 0; to < candidate.degree; to++) prices[to] += priceOf(candidate, actTo(candidate, to as Degree)!);
    }
    for (const from of DEGREES) {
      let least = Infinity;
      // From the fewest acts to the most: of equally good sets the smallest counts.
      for (let to: number = highest; to >= 0; to--) {
        const comes = factor * prices[to] + worth[row + Math.max(from, to)];
        if (comes >= least) continue;
        least = comes;
        best[row + from] = to;
      }
      if (above[place] >= 0) worth[above[place] * COUNT + from] += least;
    }
  }
  return best;
}

/** How much is open. @param degrees by candidate, if other than they are */
export function massOf({ candidates, places }: Choice, degrees?: ArrayLike<number>): number {
  const open = openOf(places, degrees ? (at) => degrees[at] : (at) => candidates[at].degree);
  return open.reduce((mass, degree, place) => mass + places.weight[place] * LEVELS[degree as Degree], 0);
}

/** The acts of a shortlist with the shares' ids, sorted by them. */
export function actsOf({ shares }: Estate, { candidates }: Choice, { acts }: Shortlist): { share: string; act: Act }[] {
  return acts
    .flatMap((act, at) => (act === null ? [] : [{ share: shares.idOf(candidates[at].slot), act }]))
    .sort((a, b) => (a.share < b.share ? -1 : 1));
}
