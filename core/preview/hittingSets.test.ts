import fc from "fast-check";
import { cheapestHittingSets, compareCosts, type Cost } from "./hittingSets";

/** Costs that add up, and costs of which some come only where two members are taken together: both never fall. */
const worlds = fc
  .record({
    ways: fc.array(fc.uniqueArray(fc.nat(6), { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 6 }),
    own: fc.array(fc.nat(5), { minLength: 7, maxLength: 7 }),
    pairs: fc.array(fc.tuple(fc.nat(6), fc.nat(6), fc.integer({ min: 1, max: 9 })), { maxLength: 6 }),
  })
  .map(({ ways, own, pairs }) => {
    const costOf = (members: readonly number[]): Cost => {
      const alone = members.reduce((sum, member) => sum + own[member], 0);
      const together = pairs.filter(([a, b]) => a !== b && members.includes(a) && members.includes(b));
      return [together.reduce((sum, [, , cost]) => sum + cost, 0), alone, members.length];
    };
    return { ways, costOf };
  });

test("the cheapest minimal sets are those of all sets there are, whatever is known to begin with", () => {
  fc.assert(
    fc.property(worlds, fc.integer({ min: 1, max: 4 }), fc.boolean(), ({ ways, costOf }, wanted, knowsAll) => {
      const all = [...new Set(ways.flat())];
      const sets = Array.from({ length: 2 ** all.length }, (_, set) => all.filter((_, i) => (set >> i) & 1));
      const hits = (set: number[]) => ways.every((way) => way.some((member) => set.includes(member)));
      const minimal = sets.filter((set) => hits(set) && !set.some((one) => hits(set.filter((other) => other !== one))));
      const costs = minimal.map(costOf).sort(compareCosts);
      const { best, isExact } = cheapestHittingSets({
        ways,
        costOf,
        wanted,
        limit: 10_000,
        known: knowsAll ? [all] : [],
      });
      expect(isExact).toBe(true);
      expect(best.map(({ cost }) => cost)).toEqual(costs.slice(0, wanted));
      for (const { members, cost } of best) expect([hits([...members]), cost]).toEqual([true, costOf(members)]);
    }),
    { numRuns: 500 },
  );
});

test("where the limit is reached, that is said, and the best known set stands", () => {
  const ways = Array.from({ length: 12 }, (_, way) => [2 * way, 2 * way + 1]);
  const costOf = (members: readonly number[]): Cost => [members.length];
  const known = ways.map(([first]) => first);
  const { best, isExact } = cheapestHittingSets({ ways, costOf, wanted: 1, limit: 1, known: [known] });
  expect([best[0].members, isExact]).toEqual([known, false]);
});
