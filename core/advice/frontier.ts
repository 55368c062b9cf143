import type { Choice } from "./choice";
import { massOf, type Point, type Shortlist, shortlistSteps } from "./shortlist";
import { finish, type Steps } from "../time/steps";

/** How many points the frontier is drawn from, at most. */
export const MOST_POINTS = 20;
const THOUSAND = 1_000;

/**
 * The frontier from "nothing" to "everything that shuts something", for rising prices: points at which no other set
 * of acts leaves less for as much. They are nested: each holds all acts of the one before. Between two that are known,
 * the factor that makes both worth the same finds one between them, or says that there is none; the widest gap goes
 * first, as seen on the curve.
 */
export function frontier(choice: Choice, most = MOST_POINTS): Shortlist[] {
  return finish(frontierSteps(choice, most));
}

export function* frontierSteps(choice: Choice, most = MOST_POINTS): Steps<Shortlist[]> {
  const all = yield* shortlistSteps(choice, 0);
  const nothing = nothingOf(choice);
  if (all.changes === 0) return [nothing];
  const points = [nothing, all];
  // By the factor of the point after it: gaps in which there are no more points.
  const closed = new Set<number>();
  const area = (at: number) => (points[at].left - points[at + 1].left) * (points[at + 1].price - points[at].price);
  while (points.length < most) {
    const gaps = points.slice(0, -1).flatMap((_, at) => (closed.has(points[at + 1].price) ? [] : [at]));
    if (gaps.length === 0) break;
    const at = gaps.reduce((widest, gap) => (area(gap) > area(widest) ? gap : widest));
    const found = yield* shortlistSteps(choice, factorBetween(points[at], points[at + 1]));
    if (found.price === points[at].price || found.price === points[at + 1].price) closed.add(points[at + 1].price);
    else points.splice(at + 1, 0, found);
  }
  return points;
}

function nothingOf(choice: Choice): Shortlist {
  const acts = choice.candidates.map(() => null);
  return { factor: Infinity, left: massOf(choice), price: 0, changes: 0, acts };
}

/** The factor, in whole thousandths, at which two points are worth the same, or nearly. */
function factorBetween(a: Point, b: Point): number {
  return Math.floor((THOUSAND * (a.left - b.left)) / (b.price - a.price));
}

/**
 * Where a frontier bends most: the point farthest from the line between its ends, both axes taken as shares of their
 * whole (V. Satopää et al., "Finding a 'Kneedle' in a Haystack", 2011). @returns its place; the last where all lie on
 * the line
 */
export function bendOf(points: readonly Point[]): number {
  const [first, last] = [points[0], points[points.length - 1]];
  const width = last.price - first.price || 1;
  const height = first.left - last.left || 1;
  const distance = ({ left, price }: Point) => (first.left - left) / height - (price - first.price) / width;
  let bend = points.length - 1;
  for (const [at, point] of points.entries()) if (distance(point) > distance(points[bend])) bend = at;
  return bend;
}
