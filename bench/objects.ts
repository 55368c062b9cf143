import type { Estate } from "../core/estate/estate";
import { type OutsideRow, type OutsideShare, outsideShares } from "./outside";

interface ItemObject {
  slot: number;
  parent: ItemObject | null;
  inherits: boolean;
  children: ItemObject[];
  shares: OutsideShare[];
}

interface Result {
  people: Set<number>;
  organisations: Set<number>;
  row: Omit<OutsideRow, "item">;
}

const NOTHING: Result = {
  people: new Set(),
  organisations: new Set(),
  row: { open: 0, keyed: 0, outsiders: 0, organisations: 0, role: -1, download: 0, until: 0 },
};

/**
 * The question as one would write it well with objects: a tree of items that point at their children, gone
 * through once from above; an item without a share of its own has its parent's result, not a copy.
 */
export function inObjects(estate: Estate): () => Map<number, Result["row"]> {
  const { items, principals } = estate;
  const shares = [...outsideShares(estate)].map((share) => ({ ...share, people: share.people.slice() }));
  const known = Array.from({ length: items.count }, (_, slot) => ({
    slot,
    parentSlot: items.parent[slot],
    inherits: items.inherits[slot] === 1,
  }));
  const organisationOf = [...principals.organisationOf];
  return () => {
    const objects = known.map(({ slot, inherits }): ItemObject => ({
      slot,
      parent: null,
      inherits,
      children: [],
      shares: [],
    }));
    for (const { slot, parentSlot } of known) {
      if (parentSlot < 0) continue;
      objects[slot].parent = objects[parentSlot];
      objects[parentSlot].children.push(objects[slot]);
    }
    for (const share of shares) objects[share.item].shares.push(share);
    const results = new Map<number, Result["row"]>();
    const stack = objects.filter(({ parent }) => parent === null).map((item) => ({ item, above: NOTHING }));
    while (stack.length > 0) {
      const { item, above } = stack.pop()!;
      const inherited = item.inherits ? above : NOTHING;
      const result = item.shares.length === 0 ? inherited : withShares(inherited, item.shares, organisationOf);
      results.set(item.slot, result.row);
      for (const child of item.children) stack.push({ item: child, above: result });
    }
    return results;
  };
}

function withShares(above: Result, shares: OutsideShare[], organisationOf: number[]): Result {
  const people = new Set(above.people);
  const organisations = new Set(above.organisations);
  const row = { ...above.row };
  for (const share of shares) {
    for (const person of share.people) {
      people.add(person);
      organisations.add(organisationOf[person]);
    }
    if (share.open === 1) row.keyed = row.open === 0 ? share.keyed : row.keyed & share.keyed;
    row.open |= share.open;
    row.role = Math.max(row.role, share.role);
    row.download |= share.download;
    row.until = Math.max(row.until, share.until);
  }
  row.outsiders = people.size;
  row.organisations = organisations.size;
  return { people, organisations, row };
}

export function* objectRows(results: Map<number, Result["row"]>): Generator<OutsideRow> {
  for (const [item, row] of results) yield { item, ...row };
}
