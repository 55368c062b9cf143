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
import { type Act, choiceAt, frontier, shortlist } from "./shortlist";

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

test("the shortlist is the best set there is, and the one that all the best sets contain", () => {
  fc.assert(
    fc.property(estates, fc.nat(20_000), (records, factor) => {
      const estate = buildEstate(records);
      const { mass, sets } = allSets(estate, T);
      const worth = ({ left, price }: { left: number; price: number }) => (mass - left) * 1_000 - factor * price;
      const found = shortlist(choiceAt(estate, T), factor);
      const best = Math.max(...sets.map(worth));
      const acts = new Map(found.acts.map(({ share, act }) => [share, act]));
      expect({ mass: found.mass, worth: worth(found) }).toEqual({ mass, worth: best });
      for (const one of sets.filter((set) => worth(set) === best)) expect(isWithin(acts, one.acts)).toBe(true);
    }),
    { numRuns: 300 },
  );
});

test("for a lower factor it holds all of what it holds for a higher one, asked together or one by one", () => {
  fc.assert(
    fc.property(estates, fc.nat(9_000), fc.nat(9_000), (records, a, b) => {
      const choice = choiceAt(buildEstate(records), T);
      const actsAt = (factor: number) => new Map(shortlist(choice, factor).acts.map(({ share, act }) => [share, act]));
      expect(isWithin(actsAt(Math.max(a, b)), actsAt(Math.min(a, b)))).toBe(true);
      expect(frontier(choice, [a, b, a])).toEqual(
        [a, b, a].map((factor) => {
          const { left, price, acts } = shortlist(choice, factor);
          return { factor, left, price, changes: acts.length };
        }),
      );
    }),
  );
});
