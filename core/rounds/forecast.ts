import type { Steps } from "../time/steps";
import type { Estate } from "../estate/estate";
import { Share } from "../estate/share";
import { byText } from "../text/text";
import type { Seconds } from "../time/instant";
import { type Deciding, deciderOf } from "./decider";

/** What a round would look like if it were opened now. */
export interface Forecast {
  lines: number;
  deciders: number;
  /** Lines that nobody is left to decide. */
  nobodys: number;
  /** The first of those with the most lines. */
  most: { address: string; name: string; lines: number }[];
}

const MOST_TOLD = 10;
/** How many shares are examined before others get their turn. */
const PIECE = 5_000;

/** The slots of some shares by decider, sorted by id for each; those that nobody decides come first. */
export function* deciderOrder(estate: Estate, slots: Uint32Array, deciding: Deciding, t: Seconds): Steps<number[]> {
  const keyed: { key: string; id: string; slot: number }[] = [];
  for (let at = 0; at < slots.length; at++) {
    if (at > 0 && at % PIECE === 0) yield;
    const share = new Share(estate, slots[at]);
    const decider = deciderOf(estate, share, deciding, t);
    keyed.push({ key: decider ? estate.people[decider.person].address : "", id: share.id, slot: slots[at] });
  }
  yield;
  return keyed.sort((a, b) => byText(a.key, b.key) || byText(a.id, b.id)).map(({ slot }) => slot);
}

/** Counts who would decide about some shares, piece by piece. @param slots of the shares */
export function* forecastOf(estate: Estate, slots: Uint32Array, deciding: Deciding, t: Seconds): Steps<Forecast> {
  const counts = new Map<number, number>();
  let nobodys = 0;
  for (let at = 0; at < slots.length; at++) {
    if (at > 0 && at % PIECE === 0) yield;
    const decider = deciderOf(estate, new Share(estate, slots[at]), deciding, t);
    if (decider) counts.set(decider.person, (counts.get(decider.person) ?? 0) + 1);
    else nobodys++;
  }
  const most = [...counts].map(([person, lines]) => {
    const { address, name } = estate.people[person];
    return { address, name, lines };
  });
  most.sort((a, b) => b.lines - a.lines || byText(a.address, b.address));
  return { lines: slots.length, deciders: counts.size, nobodys, most: most.slice(0, MOST_TOLD) };
}
