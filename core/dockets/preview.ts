import { type Crowds, crowds } from "../access/crowds";
import { isLiveShare } from "../access/live";
import { pathsTo } from "../access/paths";
import { type ByPerson, indexByPerson, reachOf } from "../access/reach";
import type { Estate, Share } from "../estate/estate";
import { dayWords } from "../register/words";
import { seconds, type Seconds } from "../time/instant";
import type { Change } from "./change";
import { verdictOn } from "./verdict";

/** Some items, by how many they are and the names of the first few. */
export interface SomeItems {
  count: number;
  names: string[];
}

/** What a docket does to one person. */
export interface PersonEffect {
  address: string;
  name: string;
  insider: boolean;
  organisation: string;
  loses: SomeItems;
  /** What the docket touches and they reach all the same, and by which shares. */
  keeps: SomeItems;
  ways: Way[];
}

/** A share that still lets somebody in, in a few words. */
export interface Way {
  share: string;
  words: string;
}

/** What happens to those who hold an address, or to the house as a whole, whoever they are. */
export interface CrowdEffect {
  loses: SomeItems;
  keeps: SomeItems;
  ways: Way[];
}

export interface Preview {
  revokes: number;
  ends: number;
  people: PersonEffect[];
  /** Of those who hold the address of an open link. */
  anyone: CrowdEffect;
  /** Of those who come in by a house link. */
  house: CrowdEffect;
  /** Different items that somebody outside loses. */
  itemsLostOutside: number;
  /** Links whose address stops working for good. */
  addressesStopping: number;
  impossible: { shareId: string; itemName: string; why: string; instead: string }[];
  /** Shares that end later, with the day. */
  later: { shareId: string; itemName: string; on: string }[];
}

const NAMES_SHOWN = 5;

/**
 * What a set of changes would do at t, computed on the estate as it would be: nobody counts as losing
 * an item that another share, link or ownership still lets them reach.
 */
export function previewOf(estate: Estate, changes: readonly Change[], t: Seconds): Preview {
  const verdicts = changes.map((change) => ({ change, verdict: verdictOn(estate, change, t) }));
  const possible = verdicts.filter(({ verdict }) => verdict.can).map(({ change }) => change);
  const revoked = possible.filter((one) => one.action === "revoke").map((one) => estate.shareById.get(one.shareId)!);
  const removed = new Set(revoked.map((share) => share.id));
  const live = revoked.filter((share) => isLiveShare(estate, share, t));
  const affected = affectedPeople(live);
  const comparison: Comparison = {
    estate,
    t,
    removed,
    after: crowds(estate, t, removed),
    index: indexByPerson(estate, new Set(affected)),
  };
  const lostOutside = new Set<number>();
  const people = affected.map((person) => personEffect(comparison, person, live, lostOutside));
  const anyone = crowdEffect(comparison, live, "open", lostOutside);
  const itemName = (id: string) => {
    const share = estate.shareById.get(id);
    return share ? estate.tree.items[share.position].name : id;
  };
  return {
    revokes: revoked.length,
    ends: possible.length - revoked.length,
    people: people.sort((a, b) => Number(a.insider) - Number(b.insider) || b.loses.count - a.loses.count),
    anyone,
    house: crowdEffect(comparison, live, "house", new Set()),
    itemsLostOutside: lostOutside.size,
    addressesStopping: revoked.filter((share) => share.record.type === "link").length,
    impossible: verdicts.flatMap(({ change: { shareId }, verdict }) =>
      verdict.can ? [] : [{ shareId, itemName: itemName(shareId), why: verdict.why, instead: verdict.instead }],
    ),
    later: possible.flatMap((one) =>
      one.action === "set-expiry"
        ? [{ shareId: one.shareId, itemName: itemName(one.shareId), on: dayWords(seconds(one.expiresAt)) }]
        : [],
    ),
  };
}

interface Comparison {
  estate: Estate;
  t: Seconds;
  removed: ReadonlySet<string>;
  after: Crowds;
  index: ByPerson;
}

function affectedPeople(live: Share[]): number[] {
  const people = new Set<number>();
  for (const { audience } of live) if (audience.kind === "people") for (const one of audience.people) people.add(one);
  return [...people];
}

function personEffect(c: Comparison, person: number, live: Share[], lostOutside: Set<number>): PersonEffect {
  const { estate, t, removed } = c;
  const { address, name, insider, organisation } = estate.people[person];
  const own = live.filter(({ audience }) => audience.kind === "people" && audience.people.includes(person));
  const byName = reachOf(estate, t, person, c.index, removed);
  const stays = (at: number) => byName.has(at) || c.after.open[at] > 0 || (insider && c.after.house[at] > 0);
  const touched = touchedBy(estate, own);
  const lost = touched.filter((at) => !stays(at));
  const kept = touched.filter(stays);
  if (!insider) for (const at of lost) lostOutside.add(at);
  const ways = new Map<string, string>();
  for (const at of kept) for (const path of pathsTo(estate, t, person, at, removed)) ways.set(path.share, path.at);
  return {
    address,
    name,
    insider,
    organisation,
    loses: someItems(estate, lost),
    keeps: someItems(estate, kept),
    ways: [...ways].map(([share, at]) => ({ share, words: wayWords(estate, share, at) })),
  };
}

/** What those lose who come in by an open (or a house) link, and where another such link still stands open. */
function crowdEffect(c: Comparison, live: Share[], kind: "open" | "house", lostOutside: Set<number>): CrowdEffect {
  const { estate, t, removed } = c;
  const touched = touchedBy(
    estate,
    live.filter(({ audience }) => audience.kind === kind),
  );
  const lost = touched.filter((at) => c.after[kind][at] === 0);
  const kept = touched.filter((at) => c.after[kind][at] > 0);
  for (const at of lost) lostOutside.add(at);
  const keptSet = new Set(kept);
  const ways = estate.shares.filter(
    (share) =>
      share.audience.kind === kind &&
      !removed.has(share.id) &&
      isLiveShare(estate, share, t) &&
      touchedBy(estate, [share]).some((at) => keptSet.has(at)),
  );
  return {
    loses: someItems(estate, lost),
    keeps: someItems(estate, kept),
    ways: ways.map((share) => ({ share: share.id, words: wayWords(estate, share.id, share.record.itemId) })),
  };
}

/** Every live position that at least one of some shares reaches, in order. */
function touchedBy({ tree }: Estate, shares: Share[]): number[] {
  const touched = new Set<number>();
  for (const { position } of shares)
    for (let at = position; at < tree.end[position]; at++) if (tree.live[at]) touched.add(at);
  return [...touched].sort((a, b) => a - b);
}

function someItems({ tree }: Estate, positions: number[]): SomeItems {
  return { count: positions.length, names: positions.slice(0, NAMES_SHOWN).map((at) => tree.items[at].name) };
}

function wayWords(estate: Estate, shareId: string, itemId: string): string {
  const { name } = estate.tree.items[estate.tree.positionById.get(itemId)!];
  const share = estate.shareById.get(shareId);
  if (!share) return `owns ${name}`;
  if (share.record.type === "link") return `${share.record.reach} link on ${name}`;
  return share.group >= 0
    ? `group ${estate.groups.records[share.group].name} on ${name}`
    : `right to ${share.role} on ${name}`;
}
