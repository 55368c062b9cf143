import { downloadPossible } from "../../core/estate/shares";
import type { ItemRecord, StoreRecord } from "../../core/estate/records";
import { now } from "../parts/clock";
import type { StoreDatabase } from "./database";
import { isLive } from "./opening";

/**
 * Whether somebody has a right to an item in a store: one granted to them, or to a group that holds them,
 * on the item or on a folder that it inherits from.
 */
export function rightTo(
  db: StoreDatabase,
  store: StoreRecord,
  address: string,
  item: ItemRecord,
): { mayDownload: boolean } | undefined {
  if (!isLive(db, item)) return undefined;
  const principals = principalsOf(db, address);
  const time = now().getTime();
  let right: { mayDownload: boolean } | undefined;
  for (
    let at: ItemRecord | undefined = item;
    at;
    at = at.inherits && at.parentId ? db.get("item", at.parentId) : undefined
  )
    for (const grant of db.grantsOn(at.id)) {
      if (!principals.has(grant.toId) || grant.revokedAt || (grant.expiresAt && Date.parse(grant.expiresAt) <= time))
        continue;
      const mayDownload = downloadPossible(grant, at.kind, store.capabilities);
      right = { mayDownload: mayDownload || (right?.mayDownload ?? false) };
    }
  return right;
}

/** Somebody's ids, and those of all groups that they are in, however deep. */
function principalsOf(db: StoreDatabase, address: string): Set<string> {
  const found = new Set(db.peopleAt(address));
  // What is added while going through a set is gone through too.
  for (const id of found) for (const { groupId } of db.membershipsOf(id)) found.add(groupId);
  return found;
}
