import fc from "fast-check";
import { sortByPosition } from "./sortByPosition";

test("sorts as an ordinary stable sort does, over more than one digit", () => {
  fc.assert(
    fc.property(fc.array(fc.oneof(fc.nat(5), fc.nat(2 ** 30))), (positions) => {
      const keys = positions.map((_, i) => i - 7);
      const sorted = sortByPosition(Int32Array.from(positions), Int32Array.from(keys));
      const order = positions.map((position, i) => [position, keys[i]]).sort(([a], [b]) => a - b);
      expect([[...sorted.positions], [...sorted.keys]]).toEqual([
        order.map(([one]) => one),
        order.map(([, key]) => key),
      ]);
    }),
  );
});
