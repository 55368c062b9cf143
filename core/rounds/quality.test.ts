import { type Decided, qualityOf } from "./quality";

const keeps = (count: number, seconds: number): Decided[] =>
  Array.from({ length: count }, () => ({ decision: "keep", suggested: "end", seconds }));

test("what was decided is counted, and how often otherwise than suggested, with the median of the time it took", () => {
  const all: Decided[] = [
    { decision: "end", suggested: "end", seconds: 2 },
    { decision: "keep", suggested: "end", seconds: 30 },
    { decision: "tighten", suggested: "tighten", seconds: 8 },
    { decision: "keep", suggested: "keep", seconds: 4 },
  ];
  expect(qualityOf(9, all)).toEqual({ lines: 9, decided: 4, overruled: 1, medianSeconds: 6, isUnlooked: false });
  expect(qualityOf(9, [])).toMatchObject({ decided: 0, medianSeconds: null, isUnlooked: false });
});

test.each([
  [10, keeps(10, 2.9), true],
  [10, keeps(10, 3), false],
  [9, keeps(9, 1), false],
  [11, keeps(10, 1), false],
  [10, [...keeps(9, 1), { decision: "end", suggested: "end", seconds: 1 } as Decided], false],
])(
  "of %d lines, ten or more all kept in under three seconds each are marked as not looked at (%#)",
  (lines, all, is) => {
    expect(qualityOf(lines, all).isUnlooked).toBe(is);
  },
);
