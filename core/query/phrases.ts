import type { Register } from "../register/register";
import { fold } from "../text";
import { flagsOfPeople } from "./naming";
import { positionsHolding } from "./places";

/** Whatever a phrase stands in: items by slot, people and groups by index, stores by id. */
export interface PhraseHits {
  items: ArrayLike<number>;
  people: ArrayLike<number>;
  groups: ArrayLike<number>;
  stores: readonly string[];
}

/**
 * By slot: 1 where a phrase stands in the name or the place of the share's item, in the name of its store, or in
 * those whom it is for or by; or is the share's own id.
 */
export function flagsOfPhrase(register: Register, phrase: string, hits: PhraseHits): Uint8Array {
  const { shares, tree, people, principals } = register.estate;
  const isPerson = flagged(people.length + 1, hits.people);
  const isGroup = flagged(principals.groups.length, hits.groups);
  const isStore = Uint8Array.from(register.storeIds.all(), (id) => Number(hits.stores.includes(id)));
  // Names within the loops are local ones: they go over all shares. A loop whose hits are none is left out.
  const { listedSlots, maker, profile, profiles, length } = register;
  const { position, to } = shares;
  const { groupOf } = principals;
  const stores = profiles.columns.store;
  const flags = hits.people.length > 0 ? flagsOfPeople(register, isPerson) : new Uint8Array(length);
  const mark = (isHit: (slot: number) => number) => {
    for (let i = 0; i < listedSlots.length; i++) flags[listedSlots[i]] |= isHit(listedSlots[i]);
  };
  if (hits.items.length > 0) {
    const holds = positionsHolding(tree, hits.items);
    mark((slot) => holds[position[slot]]);
  }
  if (hits.people.length > 0) mark((slot) => (maker[slot] > 0 ? isPerson[maker[slot] - 1] : 0));
  if (hits.groups.length > 0) mark((slot) => (to[slot] < 0 || groupOf[to[slot]] < 0 ? 0 : isGroup[groupOf[to[slot]]]));
  if (hits.stores.length > 0) mark((slot) => isStore[stores[profile[slot]]]);
  const own = shares.find(phrase) ?? shares.find(fold(phrase));
  if (own !== undefined) flags[own] = 1;
  return flags;
}

function flagged(length: number, indexes: ArrayLike<number>): Uint8Array {
  const flags = new Uint8Array(length);
  for (let i = 0; i < indexes.length; i++) flags[indexes[i]] = 1;
  return flags;
}
