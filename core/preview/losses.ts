import { countLive, type Ranges, union } from "../access/ranges";
import type { Estate } from "../estate/estate";
import { byText } from "../text/text";
import type { Effects } from "./effects";

/** What those of one organisation lose together. */
export interface OrganisationLoss {
  organisation: string;
  insider: boolean;
  people: number;
  /** Different items. */
  items: number;
}

/** How many people lose one item, and whether anyone with an address does. */
export interface ItemLoss {
  id: string;
  name: string;
  people: number;
  anyone: boolean;
}

const MOST_ITEMS = 200;

/** The same losses by organisation: outsiders first, those who lose the most first. */
export function lossesByOrganisation(estate: Estate, { people }: Effects): OrganisationLoss[] {
  const groups = new Map<string, { insider: boolean; ranges: number[]; people: number }>();
  for (const [index, { loses }] of people) {
    if (countLive(estate.tree, loses) === 0) continue;
    const { organisation, insider } = estate.people[index];
    const group = groups.get(organisation) ?? { insider, ranges: [], people: 0 };
    group.ranges.push(...loses);
    group.people++;
    groups.set(organisation, group);
  }
  return [...groups]
    .map(([organisation, { insider, ranges, people }]) => {
      return { organisation, insider, people, items: countLive(estate.tree, union(ranges)) };
    })
    .sort(
      (a, b) => Number(a.insider) - Number(b.insider) || b.items - a.items || byText(a.organisation, b.organisation),
    );
}

/** The same by item: those that most people lose first, and of equal ones the first in the tree. */
export function lossesByItem(estate: Estate, { people, anyone }: Effects): ItemLoss[] {
  const turns = new Map<number, number>();
  const turn = (at: number, by: number) => turns.set(at, (turns.get(at) ?? 0) + by);
  const add = (ranges: Ranges, weight: number) => {
    for (let i = 0; i < ranges.length; i += 2) {
      turn(ranges[i], weight);
      turn(ranges[i + 1], -weight);
    }
  };
  for (const { loses } of people.values()) add(loses, 1);
  // Whoever holds an address is more than any number of people by name.
  add(anyone.loses, ANYONE);
  const steps = [...turns].sort(([a], [b]) => a - b);
  const pieces: { from: number; to: number; weight: number }[] = [];
  let weight = 0;
  steps.forEach(([from, by], i) => {
    weight += by;
    if (weight > 0) pieces.push({ from, to: steps[i + 1][0], weight });
  });
  pieces.sort((a, b) => b.weight - a.weight || a.from - b.from);
  return firstItems(estate, pieces);
}

/** Above the number of people of any estate. */
const ANYONE = 2 ** 32;

function firstItems({ tree }: Estate, pieces: { from: number; to: number; weight: number }[]): ItemLoss[] {
  const items: ItemLoss[] = [];
  for (const { from, to, weight } of pieces)
    for (let position = from; position < to; position++) {
      if (tree.live[position] === 0) continue;
      const [people, anyone] = [weight % ANYONE, weight >= ANYONE];
      items.push({ id: tree.idAt(position), name: tree.nameAt(position), people, anyone });
      if (items.length === MOST_ITEMS) return items;
    }
  return items;
}
