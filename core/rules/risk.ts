import { stanceOf } from "./parties";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { worstLabel } from "../estate/tree";
import { DAY, NEVER, type Seconds } from "../time/instant";

/** The five steps of NIST SP 800-30 Rev. 1, tables D to I. */
export const LEVELS = ["very-low", "low", "moderate", "high", "very-high"] as const;
export type Level = (typeof LEVELS)[number];

/** An end this near makes misuse less likely. */
export const RISK_ENDS_SOON: Seconds = 30 * DAY;

const VERY_LOW = 0;
const MODERATE = 2;
const VERY_HIGH = 4;

/**
 * NIST SP 800-30 Rev. 1, Table I-2 (Assessment Scale: Level of Risk, combination of likelihood and
 * impact). Rows: likelihood from very low to very high; columns: impact from very low to very high.
 */
const TABLE_I_2: readonly (readonly number[])[] = [
  [0, 0, 0, 1, 1],
  [0, 1, 1, 1, 2],
  [0, 1, 2, 2, 3],
  [0, 1, 2, 3, 4],
  [0, 1, 2, 3, 4],
];

/** Risk of a likelihood and an impact, by Table I-2. */
export function combine(likelihood: Level, impact: Level): Level {
  return LEVELS[TABLE_I_2[LEVELS.indexOf(likelihood)][LEVELS.indexOf(impact)]];
}

/** The risk of an outside share at t. Likelihood and impact go up by the steps in `docs/rules.md`. */
export function riskOf(estate: Estate, share: Share, t: Seconds): Level {
  return combine(LEVELS[likelihood(estate, share, t)], LEVELS[impact(estate, share)]);
}

function likelihood(estate: Estate, share: Share, t: Seconds): number {
  const endsSoon = share.ends !== NEVER && share.ends <= t + RISK_ENDS_SOON ? 1 : 0;
  if (share.audience === "open") {
    const keyed = share.isLink && share.hasPassword ? 1 : 0;
    return clamp(VERY_HIGH - keyed - endsSoon);
  }
  const stances = [...share.outsiders].map((person) => stanceOf(estate, estate.people[person]));
  const doubtful = stances.some((stance) => stance === "personal" || stance === "denied") ? 1 : 0;
  const trusted = stances.every((stance) => stance === "trusted") ? 1 : 0;
  return clamp(MODERATE + doubtful - endsSoon - trusted);
}

/** Labels lie one step above the lowest impact: public is very low, restricted very high. */
const IMPACT_OF_LABEL = [VERY_LOW, MODERATE, 3, VERY_HIGH];

function impact(estate: Estate, share: Share): number {
  const label = worstLabel(estate.tree, share.position, estate.tree.end[share.position]);
  const strong = share.role === "edit" || share.role === "manage" ? 1 : 0;
  const blocked = share.download ? 0 : 1;
  return clamp(IMPACT_OF_LABEL[Math.max(label, 0)] + strong - blocked);
}

function clamp(step: number): number {
  return Math.min(Math.max(step, VERY_LOW), VERY_HIGH);
}
