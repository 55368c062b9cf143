import { isLiveSlot, leadsOutside } from "../access/live";
import { type NamedItem, namedItem } from "../access/ways";
import type { Change } from "../changes/change";
import type { Engagement, Estate } from "../estate/estate";
import { Share } from "../estate/share";
import { OPEN } from "../estate/shares";
import { shareSentence } from "../estate/shareWords";
import { placeOf } from "../estate/tree";
import { ALWAYS, NEVER, type Seconds } from "../time/instant";

/** A project for which something is shared outside from one day to another. */
export interface EngagementTold {
  id: string;
  name: string;
  organisations: string[];
  items: number;
  starts: Seconds;
  ends: Seconds;
  /** Live outside shares that belong to it, and how many of them have ever been used. */
  shares: number;
  used: number;
}

/** One outside share on an engagement's items. */
export interface EngagementShare {
  id: string;
  item: string;
  place: string[];
  sentence: string;
  /** Organisations of the outsiders whom it names; empty where it is open to anyone. */
  organisations: string[];
  lastUsed: Seconds | null;
}

/** All that is shared on the items of one engagement. */
export interface EngagementSheet {
  engagement: EngagementTold;
  /** Those of its items that still exist. */
  items: NamedItem[];
  /** What belongs to it. */
  shares: EngagementShare[];
  /** What is shared outside on its items but belongs to no engagement. */
  strays: EngagementShare[];
}

/** An outside share on items of engagements, and which engagements it belongs to. */
interface Placed {
  slot: number;
  organisations: string[];
  on: Engagement[];
  of: Engagement[];
}

/**
 * Every live outside share on the items of engagements or below them. It belongs to an engagement if it is open
 * to anyone or names somebody in one of its organisations, like in the rule about work that is over.
 */
function placedShares(estate: Estate, t: Seconds): Placed[] {
  const byPosition = new Map<number, Engagement[]>();
  for (const engagement of estate.engagements)
    for (const at of engagement.positions) byPosition.set(at, [...(byPosition.get(at) ?? []), engagement]);
  const found: Placed[] = [];
  if (byPosition.size === 0) return found;
  const { shares, tree } = estate;
  for (let slot = 0; slot < shares.count; slot++) {
    if (!isLiveSlot(estate, slot, t) || !leadsOutside(estate, slot)) continue;
    const on = new Set<Engagement>();
    for (let at = shares.position[slot]; at >= 0; at = tree.parent[at])
      for (const one of byPosition.get(at) ?? []) on.add(one);
    if (on.size === 0) continue;
    const organisations = organisationsIn(estate, slot);
    const isOpen = shares.audience[slot] === OPEN;
    const of = [...on].filter((one) => isOpen || organisations.some((domain) => one.organisations.has(domain)));
    found.push({ slot, organisations, on: [...on], of });
  }
  return found;
}

function organisationsIn({ shares, principals, people }: Estate, slot: number): string[] {
  const outsiders = principals.pool.subarray(shares.membersFrom[slot], shares.insidersFrom[slot]);
  return [...new Set(Array.from(outsiders, (index) => people[index].organisation))].sort();
}

/** Every engagement: those still running, the next to end first, then those that are over, the latest first. */
export function engagementsTold(estate: Estate, t: Seconds): EngagementTold[] {
  const placed = placedShares(estate, t);
  const distance = ({ ends }: EngagementTold) => (ends > t ? ends - t : NEVER - ends);
  return estate.engagements
    .map((engagement) => told(estate, engagement, placed))
    .sort((a, b) => distance(a) - distance(b) || (a.id < b.id ? -1 : 1));
}

function told({ shares }: Estate, engagement: Engagement, placed: readonly Placed[]): EngagementTold {
  const own = placed.filter(({ of }) => of.includes(engagement));
  const { id, name, organisations, itemIds } = engagement.record;
  return {
    ...{ id, name, organisations, items: itemIds.length, starts: engagement.starts, ends: engagement.ends },
    shares: own.length,
    used: own.filter(({ slot }) => shares.lastUsed[slot] !== ALWAYS).length,
  };
}

/** Null where there is no such engagement. */
export function engagementSheet(estate: Estate, id: string, t: Seconds): EngagementSheet | null {
  const engagement = estate.engagements.find(({ record }) => record.id === id);
  if (!engagement) return null;
  const placed = placedShares(estate, t).filter(({ on }) => on.includes(engagement));
  const shown = (some: readonly Placed[]) => some.map((one) => shareTold(estate, one));
  return {
    engagement: told(estate, engagement, placed),
    items: [...engagement.positions].map((position) => namedItem(estate, position)),
    shares: shown(placed.filter(({ of }) => of.includes(engagement))),
    strays: shown(placed.filter(({ of }) => of.length === 0)),
  };
}

function shareTold(estate: Estate, { slot, organisations }: Placed): EngagementShare {
  const share = new Share(estate, slot);
  const item = namedItem(estate, share.position);
  const place = [item.place[0], ...placeOf(estate.tree, share.position)];
  return {
    ...{ id: share.id, item: item.name, place, organisations },
    ...{ sentence: shareSentence(estate, share), lastUsed: share.lastUsed },
  };
}

/** What ends an engagement: the changes, and the ids of shares that stay because they are for others too. */
export interface EngagementEnd {
  changes: Change[];
  left: string[];
}

/**
 * What revokes everything that belongs to an engagement and to no running one. From a link that is for others too only
 * the engagement's people are removed; a group that has others in it keeps its grants.
 */
export function endOfEngagement(estate: Estate, id: string, t: Seconds): EngagementEnd | null {
  const engagement = estate.engagements.find(({ record }) => record.id === id);
  if (!engagement) return null;
  const end: EngagementEnd = { changes: [], left: [] };
  for (const { slot, organisations, of } of placedShares(estate, t)) {
    if (!of.includes(engagement) || of.some(({ ends }) => ends > t)) continue;
    const shareId = estate.shares.idOf(slot);
    const isTheirsAlone = organisations.every((domain) => engagement.organisations.has(domain));
    if (isTheirsAlone) end.changes.push({ action: "revoke", shareId });
    else if (estate.shares.isLink(slot)) end.changes.push(...dropped(estate, slot, engagement));
    else end.left.push(shareId);
  }
  return end;
}

function dropped({ shares, people }: Estate, slot: number, { organisations }: Engagement): Change[] {
  const recipients = new Set(shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot]));
  return [...recipients]
    .filter((index) => !people[index].insider && organisations.has(people[index].organisation))
    .map((index) => ({ action: "drop-recipient", shareId: shares.idOf(slot), address: people[index].address }));
}
