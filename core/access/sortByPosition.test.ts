import fc from "fast-check";
import { sortByPosition } from "./sortByPosition";

test("sorts as an ordinary stable sort does, over more than one digit", () => {
  fc.assert(
    fc.property(fc.array(fc.oneof(fc.nat(5), fc.nat(2 ** 30))), (positions) => {
      const sorted = sortByPosition(Int32Array.from(positions));
      const wanted = positions.map((position, i) => [position, i]).sort(([a], [b]) => a - b);
      expect([[...sorted.positions], [...sorted.order]]).toEqual([
        wanted.map(([position]) => position),
        wanted.map(([, place]) => place),
      ]);
    }),
  );
});
