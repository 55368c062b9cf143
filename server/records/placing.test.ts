import fc from "fast-check";
import { Placing } from "./placing";

type Told = Parameters<Placing["put"]>[0];

const KNOWN = new Set(["s0", "s1"]);
/** Few ids, so that there are cycles, items told of twice, and parents of another store or that are files. */
const items = fc.array(
  fc.record({
    id: fc.constantFrom("a", "b", "c", "d", "e", "f"),
    parentId: fc.constantFrom(null, "a", "b", "c", "d", "e", "f", "never-told"),
    storeId: fc.constantFrom("s0", "s0", "s0", "s1", "s2"),
    kind: fc.constantFrom("folder", "folder", "space", "file"),
  }) as fc.Arbitrary<Told>,
  { maxLength: 12 },
);

/** The way up, step by step, as it is said what a place is. */
function hasPlace(told: ReadonlyMap<string, Told>, id: string): boolean {
  const way = new Set<string>();
  for (let at = told.get(id); at;) {
    if (way.has(at.id) || !KNOWN.has(at.storeId)) return false;
    way.add(at.id);
    if (at.parentId === null) return true;
    const parent = told.get(at.parentId);
    if (!parent || parent.storeId !== at.storeId || parent.kind === "file") return false;
    at = parent;
  }
  return false;
}

test("an item has a place where all above it are known, of one store, and no files; whichever is asked first", () => {
  fc.assert(
    fc.property(items, fc.infiniteStream(fc.nat(100)), (told, order) => {
      const placing = new Placing(KNOWN);
      for (const one of told) placing.put(one);
      const last = new Map(told.map((one) => [one.id, one]));
      const asked = ["a", "b", "c", "d", "e", "f", "never-told", "nobody"]
        .map((id) => ({ id, by: order.next().value }))
        .sort((a, b) => a.by - b.by);
      for (const { id } of asked) expect([id, placing.has(id)]).toEqual([id, hasPlace(last, id)]);
    }),
    { numRuns: 2_000 },
  );
});
