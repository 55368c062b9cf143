import { type Act, type Candidate, degreeAfter, LEVELS, type Opening, OPENINGS, priceOf } from "./candidate";
import type { Choice } from "./choice";
import { type Effect, othersTo } from "./effect";
import type { Shortlist } from "./shortlist";

/** Changes that do the same to similar shares. */
export interface ActGroup {
  key: string;
  act: Act;
  opening: Opening;
  isUsed: boolean;
  isRunning: boolean;
  changes: number;
  price: number;
  /** How many of the changes have an effect only together with others. */
  together: number;
  /** How much mass it takes away after all groups before it. */
  takes: number;
}

/** The key of a change's group: `end-open`, `password-open-used`. */
export const groupKeyOf = (act: Act, { opening, isUsed, isRunning }: Candidate): string =>
  [act, opening, ...(isUsed ? ["used"] : []), ...(isRunning ? ["running"] : [])].join("-");

/** The changes of a shortlist by what they do: those that disturb least come first. */
export function groupsOf(choice: Choice, { acts }: Pick<Shortlist, "acts">, effect: Effect): ActGroup[] {
  const { candidates, places } = choice;
  const groups = new Map<string, ActGroup>();
  for (let place = 0; place < places.count; place++)
    for (let at = places.begins[place]; at < places.begins[place + 1]; at++) {
      const act = acts[at];
      if (act === null) continue;
      const group = groupIn(groups, act, candidates[at]);
      group.changes++;
      group.price += priceOf(candidates[at], act);
      if (!othersTo(choice, acts, effect, at, place).next().done) group.together++;
    }
  const order = [...groups.values()].sort((a, b) => rankOf(a) - rankOf(b));
  const left = leftAfterEach(choice, acts, order);
  return order.map((group, at) => ({ ...group, takes: left[at] - left[at + 1] }));
}

function groupIn(groups: Map<string, ActGroup>, act: Act, candidate: Candidate): ActGroup {
  const key = groupKeyOf(act, candidate);
  const { opening, isUsed, isRunning } = candidate;
  const group = groups.get(key) ?? { ...NONE, key, act, opening, isUsed, isRunning };
  groups.set(key, group);
  return group;
}
const NONE = { changes: 0, price: 0, together: 0, takes: 0 };

const rankOf = ({ act, opening, isUsed, isRunning }: ActGroup): number =>
  ((Number(isRunning) * 2 + Number(isUsed)) * 2 + Number(act === "password")) * OPENINGS.length +
  OPENINGS.indexOf(opening);

/** The mass before anything is done, and after each group: in one walk over the places. */
function leftAfterEach({ candidates, places }: Choice, acts: Shortlist["acts"], order: readonly ActGroup[]): number[] {
  const { count, above, begins, weight } = places;
  const stages = order.length + 1;
  const turn = new Map(order.map(({ key }, at) => [key, at + 1]));
  const open = new Uint8Array(count * stages);
  const left = new Array<number>(stages).fill(0);
  for (let place = 0; place < count; place++) {
    const row = open.subarray(place * stages, (place + 1) * stages);
    if (above[place] >= 0) row.set(open.subarray(above[place] * stages, (above[place] + 1) * stages));
    for (let at = begins[place]; at < begins[place + 1]; at++) {
      const act = acts[at];
      const done = act === null ? stages : turn.get(groupKeyOf(act, candidates[at]))!;
      const after = degreeAfter(candidates[at], act);
      for (let stage = 0; stage < stages; stage++)
        row[stage] = Math.max(row[stage], stage < done ? candidates[at].degree : after);
    }
    for (let stage = 0; stage < stages; stage++) left[stage] += weight[place] * LEVELS[row[stage]];
  }
  return left;
}
