import { isLiveSlot, leadsOutside } from "../access/live";
import { type NamedItem, namedItem } from "../access/ways";
import type { Change } from "../changes/change";
import type { Engagement, Estate } from "../estate/estate";
import { Share } from "../estate/share";
import { OPEN } from "../estate/shares";
import { shareSentence } from "../estate/shareWords";
import { placeOf } from "../estate/tree";
import { ALWAYS, NEVER, type Seconds } from "../time/instant";

/** A piece of work for which something is shared outside, from one day to another. */
export interface EngagementTold {
  id: string;
  name: string;
  organisations: string[];
  items: number;
  starts: Seconds;
  ends: Seconds;
  /** Live outside shares that belong to it, and how many of them were ever used. */
  shares: number;
  used: number;
}

/** One outside share on an engagement's items. */
export interface EngagementShare {
  id: string;
  item: string;
  place: string[];
  sentence: string;
  /** Organisations of the outsiders that it lets in by name; empty where it is open to anyone. */
  organisations: string[];
  lastUsed: Seconds | null;
}

/** All that is shared on the items of one engagement. */
export interface EngagementSheet {
  engagement: EngagementTold;
  /** Its items that are known still. */
  items: NamedItem[];
  /** What belongs to it. */
  shares: EngagementShare[];
  /** What is shared outside on its items and belongs to no engagement at all. */
  strays: EngagementShare[];
}

/** An outside share on the items of engagements, and to which of these it belongs. */
interface Placed {
  slot: number;
  organisations: string[];
  on: Engagement[];
  of: Engagement[];
}

/**
 * Every live outside share on the items of engagements, at or below them. It belongs to an engagement where it is open
 * to anyone, or lets in somebody of its organisations by name: as the rule about work that is over has it.
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

/** Every engagement: the next to end first; after all that isn't over yet, what is over, the last to end first. */
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

/** Null where no such engagement is known. */
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

/** What ends an engagement: the changes, and ids of the shares that stay since they are for others too. */
export interface EngagementEnd {
  changes: Change[];
  left: string[];
}

/**
 * What takes back all that belonged to an engagement and to none that goes on. Of a link that is for others too only
 * the engagement's people are taken out; a group that has others in it keeps what it was granted.
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
