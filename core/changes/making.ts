import { type Estate, storeAt } from "../estate/estate";
import type { Capabilities, GrantRecord, LinkRecord, ShareRecord } from "../estate/records";
import { rfc3339, seconds, type Seconds } from "../time/instant";
import type { Change, MakingChange } from "./change";
import { isMaking } from "./change";
import { honoursBlock } from "./latches";

/** Id of a share that doesn't exist yet, in an estate that shows it as made. */
export function idOfMade(change: MakingChange): string {
  return change.action === "new-grant" ? `new:${change.mark}:${change.address}` : `new:${change.mark}`;
}

/** The record of a new share as its store will have it, when it is made at t. */
export function recordOfMade(estate: Estate, change: MakingChange, t: Seconds): ShareRecord {
  const id = idOfMade(change);
  const { itemId, role, download } = change;
  const common = { id, itemId, role, download, lastUsedAt: null };
  const by = makerOf(estate, change);
  const expiresAt = change.endsByOrder ? null : change.expiresAt;
  if (change.action === "new-grant") {
    const toId = principalAt(estate, change.address);
    return { type: "grant", ...common, expiresAt, toId, grantedBy: by, grantedAt: rfc3339(t) } satisfies GrantRecord;
  }
  const { reach, password, opensAt, maxUses, addresses } = change;
  return {
    ...{ type: "link", ...common, expiresAt, reach, password, opensAt, maxUses, uses: 0, listed: false },
    ...{ recipients: addresses.map((email) => ({ email })), createdBy: by, createdAt: rfc3339(t) },
  } satisfies LinkRecord;
}

/** Id of the first record with an address. */
function principalAt({ principals, people }: Estate, address: string): string {
  const person = principals.findAddress(address);
  return person === undefined ? `mailto:${address}` : people[person].id;
}

/** Id of the maker for the store: whoever asked, or else the owner of the item or of a folder above it. */
function makerOf(estate: Estate, { by, itemId }: MakingChange): string {
  const { principals, people, tree } = estate;
  let position = tree.position(itemId)!;
  const asker = principals.findAddress(by);
  const { source, isRead } = storeAt(estate, position);
  if (asker !== undefined && (!isRead || principals.isNamedBy(asker, source))) return people[asker].id;
  while (estate.ownerAt(position) < 0 && tree.parent[position] >= 0) position = tree.parent[position];
  const owner = estate.ownerAt(position);
  return owner < 0 ? `mailto:${by}` : people[owner].id;
}

/**
 * A copy of an estate with the shares that some changes would make.
 * @param ifRevoked whether each is entered as revoked at t, so that it counts as one that comes back
 */
export function withMade(estate: Estate, changes: readonly Change[], t: Seconds, ifRevoked = false): Estate {
  const making = changes.filter(isMaking);
  if (making.length === 0) return estate;
  const copy = estate.copy(estate.asAt);
  for (const change of making) {
    const record = recordOfMade(estate, change, t);
    copy.put({
      ...record,
      ...(ifRevoked && { revokedAt: rfc3339(t) }),
      source: storeAt(estate, estate.tree.position(change.itemId)!).source,
    });
  }
  copy.settle();
  if (!ifRevoked) for (const { replaces } of making) if (replaces !== undefined) copy.shares.revokeAt(replaces, t);
  const orders = making
    .filter(({ endsByOrder }) => endsByOrder)
    .map((one) => [idOfMade(one), seconds(one.expiresAt!)] as const);
  for (const [id, on] of orders) copy.shares.takeOrder(id, on);
  return copy;
}

/** Whether a store can set an end on a share of such a kind. */
export function canEndMade(change: MakingChange, { linkExpiry, grantExpiry }: Capabilities): boolean {
  return change.action === "new-link" ? linkExpiry.includes(change.reach) : grantExpiry.includes(change.role);
}

/** Whether a block on downloads would hold on a share of such a kind. */
export function canBlockMade(estate: Estate, { role, itemId }: MakingChange): boolean {
  const position = estate.tree.position(itemId);
  if (position === undefined) return false;
  return honoursBlock(role, estate.tree.kindAt(position), storeAt(estate, position).capabilities);
}
