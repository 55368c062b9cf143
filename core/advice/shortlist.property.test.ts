import fc from "fast-check";
import { buildEstate, type Estate, storeAt } from "../estate/estate";
import { LABELS } from "../estate/records";
import { inheritedFrom } from "../estate/tree";
import { isOpenLink, type Judged } from "../rules/judged";
import { judge } from "../rules/judging";
import { stanceOf } from "../rules/parties";
import { DAY, type Seconds } from "../time/instant";
import { estates } from "@/tests/randomEstates";
import { T } from "@/tests/records";
import solver from "javascript-lp-solver";
import type { Act, Candidate } from "./candidate";
import { type Choice, choiceAt } from "./choice";
import { frontier } from "./frontier";
import { actsOf, massOf, shortlist } from "./shortlist";

jest.setTimeout(120_000);

const WEIGHT = { public: 0, internal: 1, confidential: 4, restricted: 16 };
/** Of more shares there are too many sets to look at each. */
const MOST = 6;

/** What the definition says of one share, read from it alone. */
function told(estate: Estate, judged: Judged, t: Seconds) {
  const { share } = judged;
  const isOpen = isOpenLink(judged);
  const isUsed = share.lastUsed !== null && share.lastUsed >= t - 45 * DAY;
  const firms = [...judged.outsiders].map((index) => estate.people[index]);
  const runs = estate.engagements.some(
    ({ starts, ends, positions, organisations }) =>
      starts <= t &&
      t < ends &&
      [...positions].some((top) => isBelow(estate, share.position, top)) &&
      (isOpen || firms.some(({ organisation }) => organisations.has(organisation))),
  );
  const isUnwanted = firms.some((person) => ["personal", "denied"].includes(stanceOf(estate, person) ?? ""));
  const level = isOpen ? (share.hasPassword ? 2 : 4) : isUnwanted ? 2 : 1;
  const canLock = level === 4 && storeAt(estate, share.position).capabilities.linkPassword;
  return {
    id: share.id,
    position: share.position,
    level,
    prices: { end: 1 + (isUsed ? 4 : 0) + (runs ? 16 : 0), password: canLock ? 1 + (isUsed ? 1 : 0) : null },
  };
}

function isBelow({ tree }: Estate, position: number, top: number): boolean {
  for (let at = position; at >= 0; at = tree.parent[at]) if (at === top) return true;
  return false;
}

/** Every set of acts, with what it leaves and what it costs: as many as there are, by trying them all. */
function allSets(estate: Estate, t: Seconds) {
  const { tree } = estate;
  const shares = judge(estate, t)
    .shares.filter(({ outside }) => outside)
    .map((judged) => told(estate, judged, t));
  fc.pre(shares.length <= MOST);
  const files = Array.from({ length: tree.length }, (_, at) => at)
    .filter((at) => tree.live[at] === 1 && tree.kindAt(at) === "file")
    .map((at) => {
      const above = inheritedFrom(tree, at);
      return { weight: WEIGHT[LABELS[tree.label[at]]], by: shares.filter(({ position }) => above.includes(position)) };
    });
  const massWith = (acts: ReadonlyMap<string, Act>) =>
    files.reduce((sum, { weight, by }) => {
      const levels = by.map(({ id, level }) => ({ end: 0, password: 2, none: level })[acts.get(id) ?? "none"]);
      return sum + weight * Math.max(0, ...levels);
    }, 0);
  let sets: Map<string, Act>[] = [new Map()];
  for (const { id, prices } of shares)
    sets = sets.flatMap((acts) => [
      acts,
      new Map([...acts, [id, "end" as const]]),
      ...(prices.password === null ? [] : [new Map([...acts, [id, "password" as const]])]),
    ]);
  const priceOf = (acts: ReadonlyMap<string, Act>) =>
    shares.reduce((sum, { id, prices }) => sum + (acts.has(id) ? prices[acts.get(id)!]! : 0), 0);
  return {
    mass: massWith(new Map()),
    sets: sets.map((acts) => ({ acts, left: massWith(acts), price: priceOf(acts) })),
  };
}

/** How much of one set another has: to end a link is more than to give it a password. */
const isWithin = (acts: ReadonlyMap<string, Act>, others: ReadonlyMap<string, Act>) =>
  [...acts].every(([id, act]) => others.get(id) === act || others.get(id) === "end");

const actsFor = (estate: Estate, choice: Choice, factor: number) =>
  new Map(actsOf(estate, choice, shortlist(choice, factor)).map(({ share, act }) => [share, act]));

test("the shortlist is the best set there is, and the one that all the best sets contain", () => {
  fc.assert(
    fc.property(estates, fc.nat(20_000), (records, factor) => {
      const estate = buildEstate(records);
      const { mass, sets } = allSets(estate, T);
      const worth = ({ left, price }: { left: number; price: number }) => (mass - left) * 1_000 - factor * price;
      const choice = choiceAt(estate, T);
      const best = Math.max(...sets.map(worth));
      expect({ mass: massOf(choice), worth: worth(shortlist(choice, factor)) }).toEqual({ mass, worth: best });
      const acts = actsFor(estate, choice, factor);
      for (const one of sets.filter((set) => worth(set) === best)) expect(isWithin(acts, one.acts)).toBe(true);
    }),
    { numRuns: 2_000 },
  );
});

test("for a lower factor it holds all of what it holds for a higher one", () => {
  fc.assert(
    fc.property(estates, fc.nat(9_000), fc.nat(9_000), (records, a, b) => {
      const estate = buildEstate(records);
      const choice = choiceAt(estate, T);
      const [fewer, more] = [Math.max(a, b), Math.min(a, b)].map((factor) => actsFor(estate, choice, factor));
      expect(isWithin(fewer, more)).toBe(true);
    }),
  );
});

test("the frontier leads from nothing to everything, each point within the next and none worth more than the last", () => {
  fc.assert(
    fc.property(estates, (records) => {
      const estate = buildEstate(records);
      const choice = choiceAt(estate, T);
      const points = frontier(choice);
      const all = points.map((point) => new Map(actsOf(estate, choice, point).map(({ share, act }) => [share, act])));
      expect(points[0]).toMatchObject({ left: massOf(choice), price: 0, changes: 0 });
      expect(points[points.length - 1].left).toBe(shortlist(choice, 0).left);
      const yields = points
        .slice(1)
        .map(({ left, price }, at) => (points[at].left - left) / (price - points[at].price));
      for (let at = 1; at < points.length; at++) {
        expect(isWithin(all[at - 1], all[at])).toBe(true);
        if (at > 1) expect(yields[at - 1]).toBeLessThanOrEqual(yields[at - 2]);
        const { factor, left, price } = points[at];
        expect(shortlist(choice, factor)).toMatchObject({ left, price });
      }
    }),
  );
});

/**
 * The same choice as a linear programme, as the design has its graph: what is gained step by step, each gain no more
 * than each act that it needs. Every best corner of it is whole.
 */
function bestByLinearProgramme({ candidates, places }: Choice, factor: number): number {
  const variables: Record<string, Record<string, number>> = {};
  const constraints: Record<string, { max: number }> = {};
  const add = (name: string, worth: number) => {
    variables[name] = { worth, [`${name} at most 1`]: 1 };
    constraints[`${name} at most 1`] = { max: 1 };
  };
  const needs = (what: string, act: string) => {
    variables[what][`${what} needs ${act}`] = 1;
    variables[act][`${what} needs ${act}`] = -1;
    constraints[`${what} needs ${act}`] = { max: 0 };
  };
  for (const [at, { endPrice, passwordPrice }] of candidates.entries()) {
    add(`end ${at}`, -factor * (endPrice - (passwordPrice ?? 0)));
    if (passwordPrice === null) continue;
    add(`password ${at}`, -factor * passwordPrice);
    needs(`end ${at}`, `password ${at}`);
  }
  for (let place = 0; place < places.count; place++) {
    const by: number[] = [];
    for (let above = place; above >= 0; above = places.above[above])
      for (let at = places.begins[above]; at < places.begins[above + 1]; at++) by.push(at);
    const highest = Math.max(...by.map((at) => candidates[at].degree));
    for (const [from, gain] of [
      [3, 2],
      [2, 1],
      [1, 1],
    ]) {
      if (from > highest || places.weight[place] === 0) continue;
      const name = `gain ${place} from ${from}`;
      add(name, 1_000 * gain * places.weight[place]);
      for (const at of by.filter((one) => candidates[one].degree >= from))
        needs(name, from === 3 && candidates[at].passwordPrice !== null ? `password ${at}` : `end ${at}`);
    }
  }
  const found = solver.Solve({ optimize: "worth", opType: "max", constraints, variables }) as { result: number };
  return found.result;
}

/** Shares on the places of a random forest. */
const choices = fc
  .array(
    fc.record({
      above: fc.nat(20),
      weight: fc.nat(40),
      shares: fc.array(fc.record({ kind: fc.nat(3), price: fc.integer({ min: 1, max: 21 }) }), {
        minLength: 1,
        maxLength: 3,
      }),
    }),
    { minLength: 1, maxLength: 9 },
  )
  .map((drawn): Choice => {
    const candidates = drawn.flatMap(({ shares }) =>
      shares.map(({ kind, price }, slot): Candidate => ({
        slot,
        opening: (["named", "locked", "open", "open"] as const)[kind],
        degree: ([1, 2, 3, 3] as const)[kind],
        isUsed: false,
        isRunning: false,
        endPrice: price,
        passwordPrice: kind === 3 ? Math.ceil(price / 4) : null,
      })),
    );
    const begins = drawn.reduce((all, { shares }) => [...all, all[all.length - 1] + shares.length], [0]);
    return {
      candidates,
      places: {
        count: drawn.length,
        above: Int32Array.from(drawn, ({ above }, at) => (above % (at + 1)) - 1),
        begins: Int32Array.from(begins),
        weight: Float64Array.from(drawn, ({ weight }) => weight),
        files: Int32Array.from(drawn, ({ weight }) => weight),
      },
    };
  });

test("it is worth what a linear programme finds that knows nothing of trees", () => {
  // The solver is javascript-lp-solver of the registry: a simplex method in floating point.
  fc.assert(
    fc.property(choices, fc.nat(20_000), (choice, factor) => {
      const { left, price } = shortlist(choice, factor);
      const worth = (massOf(choice) - left) * 1_000 - factor * price;
      expect(bestByLinearProgramme(choice, factor)).toBeCloseTo(worth, 2);
    }),
    { numRuns: 500 },
  );
});
