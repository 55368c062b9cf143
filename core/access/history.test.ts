import fc from "fast-check";
import { estates, news } from "@/tests/randomEstates";
import { factsOf, INSTANTS } from "@/tests/randomFacts";
import { buildEstate } from "../estate/estate";
import { wayOf } from "../register/wayAndState";
import { outsideSharesOver } from "./history";
import { isOutsideShare } from "./live";

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
