import { isLiveSlot } from "../access/live";
import { type NamedItem, namedItem } from "../access/ways";
import { intendedChanges } from "../changes/intent";
import type { Estate } from "../estate/estate";
import { Share } from "../estate/share";
import { placeOf } from "../estate/tree";
import { momentOf } from "../rules/judging";
import { lineMade, type Suggested } from "../rounds/outlook";
import { type Tightening, tighteningsOf } from "../rounds/tightenings";
import type { Seconds } from "../time/instant";
import { isLeaver, leaverAs } from "./leavers";

/** Everything that a leaver still has, and who could take it over. */
export interface LeaverSheet {
  leaver: ReturnType<typeof leaverAs>;
  /** Who could take over what they own; null where none of the candidates is an active insider. */
  heir: Heir | null;
  /** Live items that they own, the highest in the tree first, up to `MOST_SHOWN`, and how many there are. */
  owned: NamedItem[];
  ownedCount: number;
  /** Live links that they made. */
  links: LeaverLink[];
  /** Changes that remove all their grants, places among recipients and memberships. */
  held: number;
}

export interface Heir {
  address: string;
  name: string;
  /** As what: their manager, or the head of their department. */
  as: "manager" | "head";
}

export interface LeaverLink {
  id: string;
  item: string;
  place: string[];
  sentence: string;
  suggested: Suggested | null;
  /** How it can be tightened in its store. */
  ways: Tightening[];
}

const MOST_SHOWN = 50;

/**
 * The sheet of a leaver at t; null for anybody else.
 * @param heads addresses of the heads of departments
 */
export function leaverSheet(
  estate: Estate,
  person: number,
  t: Seconds,
  heads: ReadonlyMap<string, string> = new Map(),
): LeaverSheet | null {
  if (!isLeaver(estate, person)) return null;
  const { address } = estate.people[person];
  const owned = ownedPositions(estate, person);
  return {
    leaver: leaverAs(estate, person),
    heir: heirOf(estate, person, heads),
    owned: owned.slice(0, MOST_SHOWN).map((position) => namedItem(estate, position)),
    ownedCount: owned.length,
    links: linksMade(estate, person, t),
    held: intendedChanges(estate, { action: "cut-off", address }, t)?.length ?? 0,
  };
}

function heirOf(estate: Estate, person: number, heads: ReadonlyMap<string, string>): Heir | null {
  const { people, principals } = estate;
  const head = heads.get(people[person].department ?? "");
  const found = [
    { index: estate.managerOf(person), as: "manager" as const },
    { index: head === undefined ? -1 : (principals.findAddress(head) ?? -1), as: "head" as const },
  ].find(({ index }) => index >= 0 && principals.active[index] === 1 && principals.insider[index] === 1);
  return found ? { address: people[found.index].address, name: people[found.index].name, as: found.as } : null;
}

function ownedPositions({ items, tree, principals }: Estate, person: number): number[] {
  const found: number[] = [];
  for (let item = 0; item < items.count; item++) {
    const position = tree.positionOf[item];
    const isTheirs = items.owner[item] >= 0 && principals.personOf[items.owner[item]] === person;
    if (isTheirs && position >= 0 && tree.live[position] === 1) found.push(position);
  }
  const depth = (position: number) => placeOf(tree, position).length;
  return found.sort((a, b) => depth(a) - depth(b) || a - b);
}

function linksMade(estate: Estate, person: number, t: Seconds): LeaverLink[] {
  const { shares, principals } = estate;
  const moment = momentOf(estate, t);
  const found: LeaverLink[] = [];
  for (let slot = 0; slot < shares.count; slot++) {
    if (!shares.isLink(slot) || principals.personOf[shares.maker[slot]] !== person || !isLiveSlot(estate, slot, t))
      continue;
    const share = new Share(estate, slot);
    const { shareId, itemName, place, storeName, sentence, suggested } = lineMade(share, moment);
    const ways = tighteningsOf(estate, share, suggested?.because ?? [], t);
    found.push({ id: shareId, item: itemName, place: [storeName, ...place], sentence, suggested, ways });
  }
  return found;
}
