import fc from "fast-check";
import { deserialize, serialize } from "node:v8";
import { estates, news } from "@/tests/randomEstates";
import { T } from "@/tests/records";
import { Standing } from "../access/standing";
import { buildEstate, Estate } from "../estate/estate";
import { DAY, type Seconds } from "../time/instant";
import { Register } from "./register";
import { registerRow } from "./row";

const rowsOf = (register: Register) => {
  const rows = Array.from(register.knownSlots, (slot) => [register.isIn[slot], registerRow(register, slot)] as const);
  return rows.sort(([, a], [, b]) => (a.id < b.id ? -1 : 1));
};
const days = fc.integer({ min: -400, max: 400 }).map((days): Seconds => T + days * DAY);
const waived = fc
  .array(fc.tuple(fc.constantFrom("l0", "l1", "l2", "l3"), days), { maxLength: 3 })
  .map((all) => all.map(([shareId, until]) => ({ shareId, rule: "open-expiry" as const, until })));

test("a register that was kept, and one that goes to and fro in time, say what one says that is worked out anew", () => {
  fc.assert(
    fc.property(
      estates,
      fc.array(fc.tuple(days, news, waived, fc.boolean()), { minLength: 1, maxLength: 4 }),
      (records, steps) => {
        let standing = new Standing(buildEstate(records));
        let register = new Register(standing.estate);
        for (const [t, told, waivers, isKept] of steps) {
          if (isKept && register.now > 0) [standing, register] = keptAndRestored(standing.estate, register);
          register.take(standing.apply({ put: told, removed: [] }));
          register.takeWaivers(waivers);
          register.at(t);
          const anew = new Register(standing.estate);
          anew.takeWaivers(waivers);
          anew.at(t);
          expect(rowsOf(register)).toEqual(rowsOf(anew));
        }
      },
    ),
    { numRuns: 150 },
  );
});

function keptAndRestored(estate: Estate, register: Register): [Standing, Register] {
  const kept = deserialize(serialize({ estate: estate.columns(), register: register.columns() }));
  const again = Estate.restore(kept.estate);
  return [new Standing(again), Register.restore(again, kept.register)];
}
