import { estateOf, file, link, T } from "@/tests/records";
import { choiceAt } from "./choice";

test("one item may have any number of shares", () => {
  // More than can be handed to a function one by one.
  const links = Array.from({ length: 130_000 }, (_, n) => link(`l${n}`, "f"));
  const { candidates, places } = choiceAt(estateOf(file("f", null), links), T);
  expect([candidates.length, places.count]).toEqual([130_000, 1]);
  expect(candidates.every(({ slot }, at) => slot === at)).toBe(true);
});
