import type { Register } from "../register/register";
import { fold } from "../text/text";
import { flagsOfPeople } from "./naming";
import type { Places } from "./places";

/** Everything that contains a phrase: items by slot, people and groups by index, stores by id. */
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
export function flagsOfPhrase(register: Register, places: Places, phrase: string, hits: PhraseHits): Uint8Array {
  const { shares, people, principals } = register.estate;
  const isPerson = flagged(people.length + 1, hits.people);
  const flags = hits.people.length > 0 ? flagsOfPeople(register, isPerson) : new Uint8Array(register.length);
  places.mark(flags, hits.items);
  if (hits.people.length > 0) markMakers(register, flags, isPerson);
  if (hits.groups.length > 0) markGroups(register, flags, flagged(principals.groups.length, hits.groups));
  if (hits.stores.length > 0) markStores(register, flags, hits.stores);
  const own = shares.find(phrase) ?? shares.find(fold(phrase));
  if (own !== undefined) flags[own] = 1;
  return flags;
}

// These go over all shares; each is a loop of its own, without a call within.

function markMakers({ knownSlots, maker }: Register, flags: Uint8Array, isPerson: Uint8Array) {
  for (const slot of knownSlots) if (maker[slot] > 0) flags[slot] |= isPerson[maker[slot] - 1];
}

function markGroups({ knownSlots, estate }: Register, flags: Uint8Array, isGroup: Uint8Array) {
  const { to } = estate.shares;
  const { groupOf } = estate.principals;
  for (const slot of knownSlots) if (to[slot] >= 0 && groupOf[to[slot]] >= 0) flags[slot] |= isGroup[groupOf[to[slot]]];
}

function markStores(
  { knownSlots, profile, profiles, storeIds }: Register,
  flags: Uint8Array,
  stores: readonly string[],
) {
  const isStore = Uint8Array.from(storeIds.all(), (id) => Number(stores.includes(id)));
  const { store } = profiles.columns;
  for (const slot of knownSlots) flags[slot] |= isStore[store[profile[slot]]];
}

function flagged(length: number, indexes: ArrayLike<number>): Uint8Array {
  const flags = new Uint8Array(length);
  for (let i = 0; i < indexes.length; i++) flags[indexes[i]] = 1;
  return flags;
}
