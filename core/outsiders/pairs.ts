import { organisationOf } from "../estate/address";
import type { Estate } from "../estate/estate";
import { byText } from "../text/text";
import { LIKENESSES, type Likeness, type LookAlike, LookAlikes } from "./lookAlikes";
import { type Organisation, reachesSome } from "./organisations";

/** One of two domains that can be mistaken for each other. */
export interface PairSide {
  domain: string;
  /** Whether it is ours. */
  isHome: boolean;
  /** What its people reach; null where none of them are known. */
  organisation: Organisation | null;
}

export interface LookAlikePair {
  likeness: Likeness;
  /** First the one that is known better, then the one that may be posing as it. */
  sides: [PairSide, PairSide];
}

/** Keeps the pairs up to date: each new domain is compared with the known ones. */
export class Pairs {
  private readonly index = new LookAlikes();
  private readonly pairs: LookAlike[] = [];

  take(domains: Iterable<string>) {
    for (const domain of domains) this.pairs.push(...this.index.take(domain));
  }

  /**
   * The pairs in which at least one side has access, those that look the same first.
   * @param same pairs that belong to one firm, each in alphabetical order
   */
  told(estate: Estate, organisations: ReadonlyMap<string, Organisation>, same: readonly [string, string][]) {
    const home = new Set(estate.homeDomains.map(organisationOf));
    const side = (domain: string): PairSide => {
      return { domain, isHome: home.has(domain), organisation: organisations.get(domain) ?? null };
    };
    const settled = new Set(same.map((pair) => pair.join(" ")));
    const told: LookAlikePair[] = [];
    for (const { domains, likeness } of this.pairs) {
      if (settled.has(domains.join(" "))) continue;
      const sides = domains.map(side).sort(byStanding);
      if (sides.some(({ organisation }) => organisation !== null && reachesSome(organisation)) && !sides[1].isHome)
        told.push({ likeness, sides: [sides[0], sides[1]] });
    }
    return told.sort(
      (a, b) =>
        LIKENESSES.indexOf(a.likeness) - LIKENESSES.indexOf(b.likeness) ||
        byText(a.sides[0].domain, b.sides[0].domain) ||
        byText(a.sides[1].domain, b.sides[1].domain),
    );
  }
}

/** Ours is known best, then those we trust or work with, then the one seen first. */
function byStanding(a: PairSide, b: PairSide): number {
  const rank = ({ isHome, organisation }: PairSide) => {
    if (isHome) return 0;
    return organisation?.stance === "trusted" || (organisation?.engagements ?? 0) > 0 ? 1 : 2;
  };
  const since = ({ organisation }: PairSide) => organisation?.since ?? Infinity;
  return rank(a) - rank(b) || compare(since(a), since(b)) || byText(a.domain, b.domain);
}

function compare(a: number, b: number): number {
  return a === b ? 0 : a - b;
}
