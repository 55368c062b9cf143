import { liveBetween, type Tree } from "../estate/tree";

/** Positions as half-open ranges: sorted, and apart from each other. Flat: from, to, from, to, … */
export type Ranges = readonly number[];

/** @param pairs from, to, from, to, … in any order, overlapping or not */
export function union(pairs: readonly number[]): Ranges {
  if (pairs.length <= 2) return pairs;
  const ranges: number[] = [];
  const add = (i: number) => {
    const last = ranges.length - 1;
    if (last > 0 && pairs[i] <= ranges[last]) ranges[last] = Math.max(ranges[last], pairs[i + 1]);
    else ranges.push(pairs[i], pairs[i + 1]);
  };
  if (areSorted(pairs)) for (let i = 0; i < pairs.length; i += 2) add(i);
  else
    Array.from({ length: pairs.length / 2 }, (_, i) => 2 * i)
      .sort((a, b) => pairs[a] - pairs[b])
      .forEach(add);
  return ranges;
}

function areSorted(pairs: readonly number[]): boolean {
  for (let i = 2; i < pairs.length; i += 2) if (pairs[i] < pairs[i - 2]) return false;
  return true;
}

/** What is in `a` and not in `b`. The cost follows `a` and what of `b` lies in it, not the length of `b`. */
export function minus(a: Ranges, b: Ranges): Ranges {
  const left: number[] = [];
  for (let i = 0; i < a.length; i += 2) {
    let from = a[i];
    const to = a[i + 1];
    for (let j = firstEndingAfter(b, from); j < b.length && b[j] < to && from < to; j += 2) {
      if (b[j] > from) left.push(from, b[j]);
      from = Math.max(from, b[j + 1]);
    }
    if (from < to) left.push(from, to);
  }
  return left;
}

/** What is in both. */
export function both(a: Ranges, b: Ranges): Ranges {
  const shared: number[] = [];
  for (let i = 0; i < a.length; i += 2)
    for (let j = firstEndingAfter(b, a[i]); j < b.length && b[j] < a[i + 1]; j += 2)
      shared.push(Math.max(a[i], b[j]), Math.min(a[i + 1], b[j + 1]));
  return shared;
}

export function overlaps(ranges: Ranges, from: number, to: number): boolean {
  const j = firstEndingAfter(ranges, from);
  return j < ranges.length && ranges[j] < to;
}

/** Index of the first range that ends behind a position. */
function firstEndingAfter(ranges: Ranges, position: number): number {
  let low = 0;
  let high = ranges.length / 2;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ranges[2 * middle + 1] <= position) low = middle + 1;
    else high = middle;
  }
  return 2 * low;
}

/** How many live items there are in some ranges. */
export function countLive(tree: Tree, ranges: Ranges): number {
  let count = 0;
  for (let i = 0; i < ranges.length; i += 2) count += liveBetween(tree, ranges[i], ranges[i + 1]);
  return count;
}

/** The live positions in some ranges, in order. */
export function* livePositions({ live }: Tree, ranges: Ranges): Generator<number> {
  for (let i = 0; i < ranges.length; i += 2)
    for (let position = ranges[i]; position < ranges[i + 1]; position++) if (live[position] === 1) yield position;
}
