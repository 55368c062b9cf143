import { type Act, priceOf } from "./candidate";
import type { Choice } from "./choice";
import { type Effect, othersTo, shutBelow } from "./effect";
import { groupKeyOf } from "./groups";
import type { Shortlist } from "./shortlist";

/** One change of a shortlist. Shares are numbers among the candidates. */
export interface ActLine {
  at: number;
  act: Act;
  price: number;
  /** How many files it makes less open. */
  files: number;
  /** The first of the other changes needed for that, and how many there are. */
  others: number[];
  othersCount: number;
}

const MOST_OTHERS = 3;

/** The changes of one group, or of all, those that shut most files first; of candidates as good as each other, the first. */
export function linesOf(choice: Choice, { acts }: Shortlist, effect: Effect, group: string | null): Lines {
  const { candidates, places } = choice;
  const found: { at: number; place: number; files: number }[] = [];
  for (let place = 0; place < places.count; place++)
    for (let at = places.begins[place]; at < places.begins[place + 1]; at++) {
      const act = acts[at];
      if (act === null || (group !== null && groupKeyOf(act, candidates[at]) !== group)) continue;
      found.push({ at, place, files: shutBelow(effect, place, candidates[at].degree) });
    }
  found.sort((a, b) => b.files - a.files || a.at - b.at);
  return {
    count: found.length,
    page: (from, count) => found.slice(from, from + count).map(({ at, place, files }) => line(at, place, files)),
  };

  function line(at: number, place: number, files: number): ActLine {
    const act = acts[at]!;
    const others: number[] = [];
    let othersCount = 0;
    for (const other of othersTo(choice, acts, effect, at, place)) {
      othersCount++;
      if (others.length < MOST_OTHERS) others.push(other);
    }
    return { at, act, price: priceOf(candidates[at], act), files, others, othersCount };
  }
}

interface Lines {
  count: number;
  page(from: number, count: number): ActLine[];
}
