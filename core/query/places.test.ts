import fc from "fast-check";
import { estates } from "@/tests/randomEstates";
import { estateOf, file, item, link, T } from "@/tests/records";
import { buildEstate } from "../estate/estate";
import { Register } from "../register/register";
import { Places } from "./places";

function marked(register: Register, places: Places, items: readonly number[]): number[] {
  const flags = new Uint8Array(register.length);
  places.mark(flags, items);
  return Array.from(flags).flatMap((flag, slot) => (flag === 1 ? [slot] : []));
}

/** Goes up from every share, one item after the other. */
function walked({ estate, knownSlots }: Register, items: readonly number[]): number[] {
  const { tree, shares } = estate;
  return Array.from(knownSlots).filter((slot) => {
    for (let at = shares.position[slot]; at >= 0; at = tree.parent[at])
      if (items.includes(tree.slotAt[at])) return true;
    return false;
  });
}

test("shares on items and below them are those found by going up from each, cuts or not", () => {
  let isFound = false;
  fc.assert(
    fc.property(estates, fc.array(fc.nat(9), { maxLength: 4 }), (records, items) => {
      const estate = buildEstate(records);
      const register = new Register(estate);
      register.at(T);
      const known = items.filter((slot) => slot < estate.items.count);
      const wanted = walked(register, known);
      isFound ||= wanted.length > 1 && wanted.length < register.knownSlots.length;
      expect(marked(register, new Places(register), known)).toEqual(wanted);
    }),
    { numRuns: 200 },
  );
  expect(isFound).toBe(true);
});

test("it is worked out again when a share has come", () => {
  const estate = estateOf(item("a", null), file("f", "a"), link("l1", "f"));
  const register = new Register(estate);
  register.at(T);
  const places = new Places(register);
  const folder = estate.items.find("a")!;
  expect(marked(register, places, [folder])).toHaveLength(1);
  estate.put(link("l2", "a"));
  register.take(estate.settle());
  register.at(T);
  expect(marked(register, places, [folder])).toHaveLength(2);
});
