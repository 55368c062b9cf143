import fc from "fast-check";
import { buildEstate, type Estate } from "../estate/estate";
import { inheritedFrom } from "../estate/tree";
import { estates } from "@/tests/randomEstates";
import { NOW, T } from "@/tests/records";
import { leftByRisk } from "./byRisk";
import { degreeAfter } from "./candidate";
import { type Choice, choiceAt } from "./choice";
import { effectOf, filesShut } from "./effect";
import { groupsOf } from "./groups";
import { linesOf } from "./lines";
import { actsOf, massOf, type Shortlist, shortlist } from "./shortlist";
import { finish } from "../time/steps";
import { STANDARD_WEIGHING } from "./weighing";

/** With weights for all labels, so that every file counts. */
const WEIGHING = { ...STANDARD_WEIGHING, weights: { public: 1, internal: 1, confidential: 4, restricted: 16 } };

/** Every live file, with the candidates that reach it, read from the tree alone. */
function reachedFiles({ tree, shares }: Estate, { candidates }: Choice): number[][] {
  return Array.from({ length: tree.length }, (_, at) => at)
    .filter((at) => tree.live[at] === 1 && tree.kindAt(at) === "file")
    .map((file) => {
      const above = new Set(inheritedFrom(tree, file));
      return [...candidates.keys()].filter((at) => above.has(shares.position[candidates[at].slot]));
    });
}

const highest = (of: number[], degreeOf: (at: number) => number) => Math.max(0, ...of.map(degreeOf));

function each(check: (estate: Estate, choice: Choice, found: Shortlist) => void) {
  fc.assert(
    fc.property(estates, fc.nat(20_000), (records, factor) => {
      const estate = buildEstate(records);
      const choice = choiceAt(estate, T, WEIGHING);
      check(estate, choice, shortlist(choice, factor));
    }),
  );
}

test("once it is applied, as much is open as it told", () => {
  fc.assert(
    fc.property(estates, fc.nat(20_000), (records, factor) => {
      const estate = buildEstate(records);
      const choice = choiceAt(estate, T);
      const found = shortlist(choice, factor);
      const acts = new Map(actsOf(estate, choice, found).map(({ share, act }) => [share, act]));
      const after = records.map((record) => {
        const act = record.type === "link" || record.type === "grant" ? acts.get(record.id) : undefined;
        return act ? { ...record, ...(act === "end" ? { revokedAt: NOW } : { password: true }) } : record;
      });
      expect(massOf(choiceAt(buildEstate(after), T))).toBe(found.left);
    }),
    { numRuns: 500 },
  );
});

test("the groups hold every change once, and together take away just what the shortlist does", () => {
  each((_, choice, found) => {
    const groups = groupsOf(choice, found, effectOf(choice, found));
    const sum = (of: "changes" | "price" | "takes") => groups.reduce((all, group) => all + group[of], 0);
    expect([sum("changes"), sum("price"), sum("takes")]).toEqual([
      found.changes,
      found.price,
      massOf(choice) - found.left,
    ]);
    expect(new Set(groups.map(({ key }) => key)).size).toBe(groups.length);
  });
});

test("files are counted as shut, or as less open, that are so one by one", () => {
  each((estate, choice, found) => {
    const files = reachedFiles(estate, choice).map((by) => ({
      before: highest(by, (at) => choice.candidates[at].degree),
      after: highest(by, (at) => degreeAfter(choice.candidates[at], found.acts[at])),
    }));
    expect(filesShut(choice.places, effectOf(choice, found))).toEqual({
      open: files.filter(({ before }) => before > 0).length,
      lessOpen: files.filter(({ before, after }) => after < before).length,
      shut: files.filter(({ before, after }) => before > 0 && after === 0).length,
    });
  });
});

test("a line counts the files that stay more open without it, and names all it needs for that", () => {
  each((estate, choice, found) => {
    const { candidates } = choice;
    const files = reachedFiles(estate, choice);
    const after = (by: number[], but = -1) =>
      highest(by, (at) => (at === but ? candidates[at].degree : degreeAfter(candidates[at], found.acts[at])));
    const effect = effectOf(choice, found);
    for (const { key, changes, together } of groupsOf(choice, found, effect)) {
      let withOthers = 0;
      const lines = linesOf(choice, found, effect, key);
      expect(lines.count).toBe(changes);
      for (const { at, files: told, others, othersCount } of lines.page(0, changes)) {
        const its = files.filter((by) => by.includes(at) && after(by, at) > after(by));
        expect(told).toBe(its.length);
        const needed = new Set(
          its.flatMap((by) => by.filter((one) => one !== at && found.acts[one] !== null && after(by, one) > after(by))),
        );
        expect(othersCount).toBe(needed.size);
        if (othersCount > 0) withOthers++;
        expect(others.every((one) => needed.has(one))).toBe(true);
      }
      expect(together).toBe(withOthers);
    }
  });
});

test("ending the riskiest leaves as much as doing so one by one, and never less than the best for as much", () => {
  each((_, choice, found) => {
    const risks = Uint8Array.from(choice.candidates, ({ slot }) => slot % 3);
    const inOrder = [...choice.candidates.keys()].sort((a, b) => risks[b] - risks[a] || a - b);
    const leftFor = (price: number) => {
      const degrees = choice.candidates.map(({ degree }): number => degree);
      let spent = 0;
      for (const at of inOrder) {
        spent += choice.candidates[at].endPrice;
        if (spent > price) break;
        degrees[at] = 0;
      }
      return massOf(choice, degrees);
    };
    const prices = [0, found.price, found.price + 5, 1_000];
    const left = finish(leftByRisk(choice, risks, prices));
    expect(left).toEqual(prices.map(leftFor));
    expect(left[1]).toBeGreaterThanOrEqual(found.left);
  });
});
