import { degreeAfter, DEGREES } from "./candidate";
import type { Choice, Places } from "./choice";
import { openOf } from "./open";
import type { Shortlist } from "./shortlist";

/** What a shortlist does, place by place. */
export interface Effect {
  /** By place: how open its files are before and after. */
  before: Uint8Array;
  after: Uint8Array;
  /** By place: the end of the range of places below it. */
  end: Int32Array;
  /** By place × degree: how many files at it and below are less open than that degree afterwards, and were so open. */
  shut: Int32Array;
}

/** How many files nobody outside reaches any more, how many are less open than before, and how many there are. */
export interface FilesShut {
  shut: number;
  lessOpen: number;
  open: number;
}

const COUNT = DEGREES.length;

export function effectOf({ candidates, places }: Choice, { acts }: Pick<Shortlist, "acts">): Effect {
  const before = openOf(places, (at) => candidates[at].degree);
  const after = openOf(places, (at) => degreeAfter(candidates[at], acts[at]));
  const end = endsOf(places);
  return { before, after, end, shut: shutOf(places, after) };
}

function endsOf({ count, above }: Places): Int32Array {
  const end = Int32Array.from({ length: count }, (_, place) => place + 1);
  for (let place = count - 1; place >= 0; place--)
    if (above[place] >= 0) end[above[place]] = Math.max(end[above[place]], end[place]);
  return end;
}

function shutOf({ count, above, files }: Places, after: Uint8Array): Int32Array {
  const shut = new Int32Array(count * COUNT);
  for (let place = count - 1; place >= 0; place--)
    for (const degree of DEGREES) {
      if (after[place] < degree) shut[place * COUNT + degree] += files[place];
      if (above[place] >= 0) shut[above[place] * COUNT + degree] += shut[place * COUNT + degree];
    }
  return shut;
}

/** How many files at a place and below are less open afterwards than a share of some degree on it made them. */
export const shutBelow = ({ shut }: Effect, place: number, degree: number): number => shut[place * COUNT + degree];

export function filesShut({ count, files }: Places, { before, after }: Effect): FilesShut {
  const sums = { shut: 0, lessOpen: 0, open: 0 };
  for (let place = 0; place < count; place++) {
    if (before[place] > 0) sums.open += files[place];
    if (after[place] < before[place]) sums.lessOpen += files[place];
    if (before[place] > 0 && after[place] === 0) sums.shut += files[place];
  }
  return sums;
}

/** The other changes that it takes so that all files that this one shuts become less open. */
export function* othersTo(
  { candidates, places }: Choice,
  acts: Shortlist["acts"],
  effect: Effect,
  at: number,
  place: number,
): Generator<number> {
  const { degree } = candidates[at];
  const on = function* (other: number, lower: number) {
    for (let one = places.begins[other]; one < places.begins[other + 1]; one++)
      if (one !== at && acts[one] !== null && shutBelow(effect, lower, Math.min(degree, candidates[one].degree)) > 0)
        yield one;
  };
  for (let over = place; over >= 0; over = places.above[over]) yield* on(over, place);
  for (let below = place + 1; below < effect.end[place]; below++) yield* on(below, below);
}
