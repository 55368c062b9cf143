import fc from "fast-check";
import { jStat } from "jstat";
import { sampleSize } from "./sample";

/** 59 of many at 5 % and 95 % is the figure of audit handbooks (from memory: AICPA, Audit Sampling, tables for tests of controls); the others are worked out from the definition. */
test.each([
  [100_000, 5, 0.95, 59],
  [1_000, 5, 0.95, 57],
  [500, 5, 0.95, 56],
  [100, 5, 0.95, 45],
  [50, 5, 0.95, 31],
  [20, 5, 0.95, 19],
  [1, 5, 0.95, 1],
  [1_000, 5, 0.99, 86],
  [1_000, 1, 0.95, 258],
  [Number.MAX_SAFE_INTEGER, 1, 0.999, 688],
  [10, 100, 0.5, 1],
  [10, 20, 1, 9],
  [10, 20, 0, 0],
])("of %d lines with %d %% bad, for a confidence of %d: %d", (count, percent, confidence, size) => {
  expect(sampleSize(count, percent, Math.round(confidence * 1_000))).toBe(size);
});

test("it is the smallest by which a statistics package is as sure", () => {
  // jstat of the registry: the hypergeometric distribution, in floating point.
  const sure = (count: number, bad: number, size: number) => 1 - jStat.hypgeom.pdf(0, count, bad, size);
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 600 }),
      fc.integer({ min: 1, max: 100 }),
      fc.integer({ min: 1, max: 999 }),
      (count, percent, confidence) => {
        const bad = Math.ceil((count * percent) / 100);
        const size = sampleSize(count, percent, confidence);
        expect(sure(count, bad, size)).toBeGreaterThan(confidence / 1_000 - 1e-9);
        if (size > 1) expect(sure(count, bad, size - 1)).toBeLessThan(confidence / 1_000 + 1e-9);
      },
    ),
  );
});
