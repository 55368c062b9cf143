import { isLiveSlot } from "../access/live";
import { type Estate, storeAt } from "../estate/estate";
import { byText } from "../text/text";
import { ALWAYS, DAY, type Seconds } from "../time/instant";

/** Links of one store that are over and still there, by reason. */
export interface OverInStore {
  store: string;
  /** Their target is gone. */
  broken: number;
  /** They have ended, or are used up. */
  spent: number;
}

/** How many links there were in each store at an instant. */
export interface LinksAt {
  at: Seconds;
  stores: Record<string, number>;
}

export interface OverLinks {
  over: OverInStore[];
  trend: LinksAt[];
  /** Live links now; and how many of those whose stores report use nobody has used for a year. */
  live: number;
  unusedForAYear: number;
}

const YEAR = 365 * DAY;

/**
 * Links that let nobody in any more, by store; and how many live ones there were at each of some instants, as their latest
 * records tell: of a link whose item is gone it isn't known when it went, and it counts at none.
 * @param instants sorted
 */
export function overLinks(estate: Estate, t: Seconds, instants: readonly Seconds[]): OverLinks {
  const { shares, tree } = estate;
  const over = new Map<string, OverInStore>();
  const trend = instants.map((at): LinksAt => ({ at, stores: {} }));
  let [live, unusedForAYear] = [0, 0];
  for (let slot = 0; slot < shares.count; slot++) {
    const position = shares.position[slot];
    if (position < 0 || !shares.isLink(slot)) continue;
    const { name, capabilities } = storeAt(estate, position);
    const isBroken = tree.live[position] === 0;
    if (shares.revoked[slot] > t && (isBroken || shares.expires[slot] <= t || shares.isSpent(slot))) {
      const one = over.get(name) ?? { store: name, broken: 0, spent: 0 };
      over.set(name, { ...one, ...(isBroken ? { broken: one.broken + 1 } : { spent: one.spent + 1 }) });
    }
    if (isBroken) continue;
    const end = Math.min(shares.revoked[slot], shares.expires[slot]);
    for (const { at, stores } of trend) if (shares.made[slot] <= at && end > at) stores[name] = (stores[name] ?? 0) + 1;
    if (!isLiveSlot(estate, slot, t)) continue;
    live++;
    const used = shares.lastUsed[slot] === ALWAYS ? shares.made[slot] : shares.lastUsed[slot];
    if (capabilities.lastUse && used <= t - YEAR) unusedForAYear++;
  }
  return { over: [...over.values()].sort((a, b) => byText(a.store, b.store)), trend, live, unusedForAYear };
}

/** The first instant of each of the last months up to an instant, in UTC, and the instant itself. */
export function monthsBefore(t: Seconds, months: number): Seconds[] {
  const date = new Date(t * 1_000);
  const firsts = Array.from({ length: months }, (_, n) =>
    Date.UTC(date.getUTCFullYear(), date.getUTCMonth() - (months - 1 - n), 1),
  );
  return [...firsts.map((ms) => ms / 1_000), t];
}
