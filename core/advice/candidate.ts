import { canHavePassword } from "../changes/latches";
import { storeAt } from "../estate/estate";
import type { Share } from "../estate/share";
import type { Moment } from "../rules/judged";
import { DAY } from "../time/instant";
import { runningFor } from "./running";
import type { Weighing } from "./weighing";

/**
 * How far a share, or what it leads to, is open, as a step on the ladder of page "Advice": not at all; for people by
 * name; for whoever has an address and a password, or for people who should have nothing; for whoever has the address.
 */
export type Degree = 0 | 1 | 2 | 3;
export const DEGREES = [0, 1, 2, 3] as const;
/** By degree: how many times the weight of a file counts. */
export const LEVELS = [0, 1, 2, 4] as const;

/** An open link without a password, and with one; a share with somebody who shouldn't have access; a share with others by name. */
export const OPENINGS = ["open", "locked", "unwanted", "named"] as const;
export type Opening = (typeof OPENINGS)[number];
const DEGREE_OF: Record<Opening, Degree> = { open: 3, locked: 2, unwanted: 2, named: 1 };
const WITH_PASSWORD = DEGREE_OF.locked;

/** What is done with a share: it is ended, or given a password. */
export const ACTS = ["end", "password"] as const;
export type Act = (typeof ACTS)[number];

/** A share that leads outside, with what it would take to shut it. */
export interface Candidate {
  slot: number;
  opening: Opening;
  degree: Degree;
  /** Within the weighing's number of days. */
  isUsed: boolean;
  /** Whether it belongs to an engagement that runs. */
  isRunning: boolean;
  endPrice: number;
  /** Null where it can't be given a password, or already has one. */
  passwordPrice: number | null;
}

export function candidateOf(moment: Moment, share: Share, { prices, usedDays }: Weighing): Candidate {
  const { estate, t } = moment;
  const opening = openingOf(moment, share);
  const isUsed = share.lastUsed !== null && share.lastUsed >= t - usedDays * DAY;
  const isRunning = !runningFor(estate, share, t).next().done;
  const canLock = opening === "open" && canHavePassword(share, storeAt(estate, share.position).capabilities);
  return {
    slot: share.slot,
    opening,
    degree: DEGREE_OF[opening],
    isUsed,
    isRunning,
    endPrice: prices.end + (isUsed ? prices.endUsed : 0) + (isRunning ? prices.endRunning : 0),
    passwordPrice: canLock ? prices.password + (isUsed ? prices.passwordUsed : 0) : null,
  };
}

function openingOf(moment: Moment, share: Share): Opening {
  if (share.audience === "open") return share.hasPassword ? "locked" : "open";
  const isUnwanted = share.outsiders.some((index) => {
    const stance = moment.stanceOf(moment.estate.people[index]);
    return stance === "personal" || stance === "denied";
  });
  return isUnwanted ? "unwanted" : "named";
}

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
