import type { EstateRecord } from "../core/estate/records";
import { STORE_LIMITS } from "./limits";
import type { Demo } from "./scenario";

/** What a stand-in store knows from the start; since when, where a record has no date of its own. */
export type SeedRecord = EstateRecord & { since?: string };

/** The records of one store: its people and groups, its items, what is shared there, and what has happened. */
export function seedOf({ directory, since, ...demo }: Demo, storeId: string): SeedRecord[] {
  const items = demo.items.filter((item) => item.storeId === storeId);
  const ids = new Set(items.map((item) => item.id));
  // A store that grants nothing to groups has none.
  const grantsToGroups = STORE_LIMITS[storeId].grantExpiry.length > 0;
  const known = directory.filter(({ type }) => type === "person" || grantsToGroups);
  return [
    ...known.map((record) => inStore(record, storeId, since)),
    ...items,
    ...demo.shares.filter((share) => ids.has(share.itemId)),
    ...demo.events.filter((event) => ids.has(event.itemId ?? "")),
  ];
}

/** Groups are a store's own. A membership has no date; its store knows since when it has been one. */
function inStore(record: EstateRecord, storeId: string, since: string): SeedRecord {
  if (record.type === "group") return { ...record, storeId };
  return record.type === "member" ? { ...record, since } : record;
}
