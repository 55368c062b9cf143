import { canHavePassword } from "../changes/latches";
import { isOutsideShare } from "../access/live";
import type { Estate } from "../estate/estate";
import { storeAt } from "../estate/estate";
import { LABELS } from "../estate/records";
import type { Share } from "../estate/share";
import { isAtOrBelow } from "../estate/tree";
import { momentOf } from "../rules/judging";
import type { Moment } from "../rules/judged";
import { DAY, type Seconds } from "../time/instant";
import { STANDARD_WEIGHING, type Weighing } from "./weighing";

/**
 * How far a share, or what it leads to, is open, as a step on the ladder of page "Advice": not at all; for people by
 * name; for whoever has an address and a password, or for people who should have nothing; for whoever has the address.
 */
export type Degree = 0 | 1 | 2 | 3;
export const DEGREES = [0, 1, 2, 3] as const;
/** By degree: how often the weight of a file counts. */
export const LEVELS = [0, 1, 2, 4] as const;
const WITH_PASSWORD: Degree = 2;
const WITHOUT_PASSWORD: Degree = 3;

/** A share that leads outside, with what it would take to shut it. */
export interface Candidate {
  slot: number;
  degree: Degree;
  isUsed: boolean;
  endPrice: number;
  /** Null where it can't be given a password, or has one. */
  passwordPrice: number | null;
}

/**
 * The places that outside shares are on. What a share reaches lies within what another reaches or apart from it, so
 * places are a forest; above stands before below.
 */
export interface Places {
  count: number;
  /** The nearest place above from which shares reach this one too, or -1. */
  above: Int32Array;
  /** By place: where its candidates begin; behind the last, where they all end. */
  begins: Int32Array;
  /** What the files weigh that lie nearest to this place, and how many they are. */
  weight: Float64Array;
  files: Int32Array;
}

/** What there is to choose from: the outside shares by place, and the files that they open. */
export interface Choice {
  candidates: readonly Candidate[];
  places: Places;
}

/** @param isMeant whether a file, by its position, counts; all do where it is left out */
export function choiceAt(
  estate: Estate,
  t: Seconds,
  weighing: Weighing = STANDARD_WEIGHING,
  isMeant?: (position: number) => boolean,
): Choice {
  const candidates = candidatesOf(estate, t, weighing);
  return { candidates, places: placesOf(estate, candidates, weighing, isMeant) };
}

/** What is done with a share: it is ended, or given a password. */
export const ACTS = ["end", "password"] as const;
export type Act = (typeof ACTS)[number];

/** What it takes to bring a share down to a degree; null where it is no further open than that. */
export function actTo({ degree, passwordPrice }: Candidate, to: Degree): Act | null {
  if (degree <= to) return null;
  return to === WITH_PASSWORD && passwordPrice !== null ? "password" : "end";
}

export const priceOf = ({ endPrice, passwordPrice }: Candidate, act: Act): number =>
  act === "end" ? endPrice : passwordPrice!;

/** How far a share is open after an act. */
export const degreeAfter = ({ degree }: Candidate, act: Act | null): Degree =>
  act === null ? degree : act === "end" ? 0 : WITH_PASSWORD;

function candidatesOf(estate: Estate, t: Seconds, weighing: Weighing): Candidate[] {
  const moment = momentOf(estate, t);
  const { position } = estate.shares;
  const found: Candidate[] = [];
  for (const share of estate.allShares())
    if (isOutsideShare(estate, share, t)) found.push(candidateOf(moment, share, weighing));
  return found.sort((a, b) => position[a.slot] - position[b.slot] || a.slot - b.slot);
}

function candidateOf(moment: Moment, share: Share, { prices, usedDays }: Weighing): Candidate {
  const { estate, t } = moment;
  const degree = degreeOf(moment, share);
  const isUsed = share.lastUsed !== null && share.lastUsed >= t - usedDays * DAY;
  const canLock = degree === WITHOUT_PASSWORD && canHavePassword(share, storeAt(estate, share.position).capabilities);
  const running = isOfRunningWork(estate, share, t) ? prices.endRunning : 0;
  return {
    slot: share.slot,
    degree,
    isUsed,
    endPrice: prices.end + (isUsed ? prices.endUsed : 0) + running,
    passwordPrice: canLock ? prices.password + (isUsed ? prices.passwordUsed : 0) : null,
  };
}

function degreeOf(moment: Moment, share: Share): Degree {
  if (share.audience === "open") return share.hasPassword ? WITH_PASSWORD : WITHOUT_PASSWORD;
  const isUnwanted = share.outsiders.some((index) => {
    const stance = moment.stanceOf(moment.estate.people[index]);
    return stance === "personal" || stance === "denied";
  });
  return isUnwanted ? 2 : 1;
}

/** Whether it belongs to an engagement that runs: it is on, or below, one of its items, and for anyone or for its people. */
function isOfRunningWork(estate: Estate, share: Share, t: Seconds): boolean {
  return estate.engagements.some(
    ({ starts, ends, positions, organisations }) =>
      starts <= t &&
      t < ends &&
      isAtOrBelow(estate.tree, share.position, positions) &&
      (share.audience === "open" ||
        share.outsiders.some((index) => organisations.has(estate.people[index].organisation))),
  );
}

/** @param candidates by their positions, in order */
function placesOf(
  { tree, shares }: Estate,
  candidates: readonly Candidate[],
  { weights }: Weighing,
  isMeant: (position: number) => boolean = () => true,
): Places {
  const at = candidates.map(({ slot }) => shares.position[slot]);
  const begins = at.flatMap((position, n) => (n === 0 || position !== at[n - 1] ? [n] : []));
  const count = begins.length;
  const places: Places = {
    count,
    above: new Int32Array(count),
    begins: Int32Array.from([...begins, candidates.length]),
    weight: new Float64Array(count),
    files: new Int32Array(count),
  };
  const byLabel = LABELS.map((label) => weights[label]);
  const stack: number[] = [];
  const leave = (position: number) => {
    while (stack.length > 0 && tree.end[at[begins[stack[stack.length - 1]]]] <= position) stack.pop();
  };
  for (let place = 0; place < count; place++) {
    const from = at[begins[place]];
    leave(from);
    places.above[place] = stack[stack.length - 1] ?? -1;
    stack.push(place);
    const next = place + 1 < count ? at[begins[place + 1]] : tree.length;
    for (let position = from; position < next; position++) {
      leave(position);
      if (stack.length === 0) break;
      if (tree.live[position] === 0 || tree.kindAt(position) !== "file") continue;
      const weight = byLabel[tree.label[position]];
      if (weight === 0 || !isMeant(position)) continue;
      places.weight[stack[stack.length - 1]] += weight;
      places.files[stack[stack.length - 1]]++;
    }
  }
  return places;
}
