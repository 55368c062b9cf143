import fc from "fast-check";
import { Exposures, exposures } from "@/core/access/exposure";
import { pathsTo } from "@/core/access/paths";
import { eachReached, reachOf, whoReaches } from "@/core/access/reach";
import { Standing } from "@/core/access/standing";
import { WaysIn } from "@/core/access/waysIn";
import { buildEstate, Estate } from "@/core/estate/estate";
import { type EstateRecord, recordKey } from "@/core/estate/records";
import { DAY } from "@/core/time/instant";
import { head, item, link, store, T } from "./records";
import { anyInstant, estates, news } from "./randomEstates";
import { SlowModel } from "./slowModel";

// Hundreds of estates, each asked about everything.
jest.setTimeout(60_000);

const itemIds = (records: readonly EstateRecord[]) => records.flatMap((one) => (one.type === "item" ? [one.id] : []));

/** All that the engine says of an estate at an instant, in an order that tells nothing of how it was come to. */
function everything(estate: Estate, t: number, outside: Exposures, waysIn: WaysIn) {
  const all = exposures(estate, t);
  const ids = [...estate.items.ids].filter((id) => estate.tree.position(id) !== undefined).sort();
  const at = (id: string) => estate.tree.position(id)!;
  return {
    exposure: ids.map((id) => [id, all.at(at(id))]),
    outside: ids.map((id) => [id, outside.at(at(id))]),
    reach: estate.people
      .map((one) => [
        one.address,
        one.status,
        [...eachReached(estate, reachOf(estate, t, one.index, waysIn))]
          .map(([position, access]) => [estate.tree.idAt(position), access])
          .sort(),
      ])
      .sort(),
    paths: estate.people
      .flatMap((one) => ids.map((id) => [one.address, id, pathsTo(estate, t, one.index, at(id))]))
      .sort(),
  };
}

test("exposure, who, reach and paths are those of the slow model, at instants before, at and after an end, and from the year 1 to 9999", () => {
  fc.assert(
    fc.property(
      estates,
      fc.oneof(fc.constantFrom(T - 1, T, T + 1, T + 9 * DAY), anyInstant),
      fc.boolean(),
      (records, t, isReversed) => {
        // Children may come before their parents, members before their groups.
        const estate = buildEstate(isReversed ? [...records].reverse() : records);
        const slow = new SlowModel(records);
        const all = exposures(estate, t);
        const outside = new Exposures(estate, "outside").evaluate(t);
        const waysIn = new WaysIn(estate);
        for (const id of itemIds(records)) {
          const position = estate.tree.position(id)!;
          const expected = slow.exposure(id, t);
          if (expected === null) expect(all.at(position)).toBeNull();
          else expect(all.at(position)).toMatchObject(expected);
          const { insiders: _, house: __, ...fromOutside } = expected ?? { insiders: 0, house: false };
          if (expected) expect(outside.at(position)).toMatchObject(fromOutside);
        }
        for (const address of slow.addresses) {
          const person = estate.principals.findAddress(address)!;
          const reached = new Map(eachReached(estate, reachOf(estate, t, person, waysIn)));
          for (const id of itemIds(records)) {
            const position = estate.tree.position(id)!;
            const ways = slow.ways(address, id, t);
            expect([address, id, reached.has(position)]).toEqual([address, id, ways.length > 0]);
            expect(whoReaches(estate, t, position).get(person)).toEqual(reached.get(position));
            expect(pathsTo(estate, t, person, position).map(({ share }) => share)).toEqual(
              slow.ways(address, id, t, false),
            );
          }
        }
      },
    ),
    { numRuns: 250 },
  );
});

test("what is kept true while records come is what a new estate of the same records says", () => {
  fc.assert(
    fc.property(
      estates,
      fc.array(news, { minLength: 1, maxLength: 4 }),
      fc.array(fc.nat(), { maxLength: 4 }),
      (records, readings, leavers) => {
        const standing = new Standing(buildEstate(records));
        const now = new Map(records.map((one) => [one.type + recordKey(one), one]));
        // What is asked for is worked out, and has to be kept true from then on.
        standing.outsideAt(T);
        for (const [i, put] of readings.entries()) {
          const members = [...now.values()].filter((one) => one.type === "member");
          const removed = members.filter((_, n) => leavers[i] !== undefined && n === leavers[i] % members.length);
          for (const one of removed) now.delete("member" + recordKey(one));
          for (const one of put) now.set(one.type + recordKey(one), one);
          standing.apply({ put, removed });
          const fresh = new Standing(buildEstate(now.values()));
          const told = everything(standing.estate, T, standing.outsideAt(T), standing.waysIn);
          const wanted = everything(fresh.estate, T, fresh.outsideAt(T), fresh.waysIn);
          // Somebody whom no record speaks of any more is still known to the one, and reaches nothing.
          const isKnown = ([address]: unknown[]) =>
            fresh.estate.principals.findAddress(address as string) !== undefined;
          expect({ ...told, reach: told.reach.filter(isKnown), paths: told.paths.filter(isKnown) }).toEqual(wanted);
        }
      },
    ),
    { numRuns: 250 },
  );
});

test("an open link that is made one for the house is told to nobody who asks about outside only", () => {
  const estate = buildEstate([head(), store(), item("f", null), link("l", "f", { reach: "open" })]);
  const standing = new Standing(estate);
  expect(standing.outsideAt(T).at(0)).toMatchObject({ open: true, house: false });
  standing.apply({ put: [link("l", "f", { reach: "house" })], removed: [] });
  expect(standing.outsideAt(T).at(0)).toMatchObject({ open: false, house: false });
});

test("columns that were kept and read back say what the estate said", () => {
  fc.assert(
    fc.property(estates, (records) => {
      const before = new Standing(buildEstate(records));
      // A copy by value, as the disk would give it.
      const after = new Standing(Estate.restore(structuredClone(before.estate.columns())));
      const told = (one: Standing) => everything(one.estate, T, one.outsideAt(T), one.waysIn);
      expect(told(after)).toEqual(told(before));
    }),
    { numRuns: 100 },
  );
});

test("parents in a circle, and what hangs below them, have no place and hang nothing up", () => {
  const circle = [...fc.sample(estates, { seed: 1, numRuns: 1 })[0]].map((one) =>
    one.type === "item" && one.id === "i0"
      ? { ...one, parentId: "i1" }
      : one.type === "item" && one.id === "i1"
        ? { ...one, parentId: "i0" }
        : one,
  );
  const estate = buildEstate(circle);
  expect([estate.tree.position("i0"), estate.tree.position("i1")]).toEqual([undefined, undefined]);
  expect(exposures(estate, T).stateAt).toHaveLength(estate.tree.length);
});
