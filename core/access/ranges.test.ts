import fc from "fast-check";
import { both, minus, overlaps, union } from "./ranges";

const MOST = 30;
const pairs = fc
  .array(fc.tuple(fc.nat(MOST - 1), fc.integer({ min: 1, max: 6 })), { maxLength: 6 })
  .map((list) => list.flatMap(([from, length]) => [from, Math.min(MOST, from + length)]));
const all = Array.from({ length: MOST }, (_, i) => i);
const holds = (ranges: readonly number[], at: number) =>
  ranges.some((from, i) => i % 2 === 0 && from <= at && at < ranges[i + 1]);

test("union, difference and intersection are what they are of each position", () => {
  fc.assert(
    fc.property(pairs, pairs, (one, other) => {
      const [a, b] = [union(one), union(other)];
      expect(all.filter((at) => holds(a, at))).toEqual(all.filter((at) => holds(one, at)));
      expect(all.filter((at) => holds(minus(a, b), at))).toEqual(all.filter((at) => holds(a, at) && !holds(b, at)));
      expect(all.filter((at) => holds(both(a, b), at))).toEqual(all.filter((at) => holds(a, at) && holds(b, at)));
      expect(overlaps(a, 10, 15)).toBe(all.some((at) => at >= 10 && at < 15 && holds(a, at)));
    }),
  );
});

test("a union is sorted, and its ranges lie apart", () => {
  expect(union([5, 7, 0, 2, 2, 3, 6, 9])).toEqual([0, 3, 5, 9]);
});
