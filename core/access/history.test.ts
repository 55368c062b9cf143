import fc from "fast-check";
import { estates, news } from "@/tests/randomEstates";
import { T } from "@/tests/records";
import { buildEstate } from "../estate/estate";
import { type EstateRecord, recordKey } from "../estate/records";
import { wayOf } from "../register/wayAndState";
import { ALWAYS, DAY, NEVER } from "../time/instant";
import { type Held, outsideSharesOver } from "./history";
import { isOutsideShare } from "./live";

const INSTANTS = Array.from({ length: 24 }, (_, i) => T + (i - 12) * DAY + (i % 3) - 1);

/** A history in which records change at random times; each holds until the next of its kind and key. */
function factsOf(records: EstateRecord[], readings: EstateRecord[][], times: number[]): Held[] {
  const facts: Held[] = records.map((record) => ({ record, from: ALWAYS, to: NEVER }));
  const open = new Map(facts.map((fact) => [fact.record.type + recordKey(fact.record), fact]));
  for (const [i, put] of readings.entries())
    for (const record of put) {
      const from = T + ((times[i % times.length] % 20) - 10) * DAY;
      const before = open.get(record.type + recordKey(record));
      if (before && before.from >= from) continue;
      if (before) before.to = from;
      const fact = { record, from, to: NEVER };
      open.set(record.type + recordKey(record), fact);
      facts.push(fact);
    }
  return facts;
}

test("the counts of all instants are those of an estate built for each of them", () => {
  fc.assert(
    fc.property(
      estates,
      fc.array(news, { maxLength: 5 }),
      fc.array(fc.nat(), { minLength: 1 }),
      (records, readings, times) => {
        const facts = factsOf(records, readings, times);
        for (const told of outsideSharesOver(facts, INSTANTS)) {
          const counts = { at: told.at, open: 0, named: 0, person: 0, group: 0 };
          const held = facts.filter(({ from, to }) => from <= told.at && told.at < to).map(({ record }) => record);
          const estate = buildEstate(held);
          for (const share of estate.allShares())
            if (isOutsideShare(estate, share, told.at)) counts[wayOf(share) as "open"]++;
          expect(told).toEqual(counts);
        }
      },
    ),
    { numRuns: 150 },
  );
});
