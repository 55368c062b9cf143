import fc from "fast-check";
import { SlotSet } from "./slotSet";

test("slots stand in the order in which they came, each once", () => {
  fc.assert(
    fc.property(fc.array(fc.nat({ max: 300 })), fc.nat({ max: 300 }), (slots, other) => {
      const set = new SlotSet(slots);
      const model = new Set(slots);
      expect([[...set], [...set.list()], set.size, set.has(other)]).toEqual([
        [...model],
        [...model],
        model.size,
        model.has(other),
      ]);
      const copy = new SlotSet(set);
      copy.add(other);
      expect([copy.has(other), set.has(other)]).toEqual([true, model.has(other)]);
    }),
  );
});
