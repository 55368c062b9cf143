import type { Altered } from "../access/altered";
import type { Estate } from "../estate/estate";
import { seconds, type Seconds } from "../time/instant";
import type { Change } from "./change";

/** The estate as some changes would leave it. They have been found possible: all that they speak of is here. */
export function alteredBy(estate: Estate, changes: readonly Change[]): Altered {
  const { principals, shares, tree } = estate;
  const revoked = new Set<number>();
  const expires = new Map<number, Seconds>();
  const remade = new Set<number>();
  const narrowed = new Map<number, Set<number>>();
  const dropped = new Map<number, Set<number>>();
  const left = new Map<number, Set<number>>();
  const cut: number[] = [];
  for (const change of changes)
    switch (change.action) {
      case "revoke":
        revoked.add(shares.find(change.shareId)!);
        break;
      case "set-expiry":
        expires.set(shares.find(change.shareId)!, seconds(change.expiresAt));
        break;
      case "make-link":
        remade.add(shares.find(change.shareId)!);
        narrowed.set(shares.find(change.shareId)!, knownAmong(estate, change.addresses));
        break;
      case "narrow":
        narrowed.set(shares.find(change.shareId)!, knownAmong(estate, change.addresses));
        break;
      case "drop-recipient":
        addTo(dropped, shares.find(change.shareId)!, principals.findAddress(change.address)!);
        break;
      case "leave-group":
        addTo(left, principals.findAddress(change.address)!, principals.findGroup(change.groupId)!);
        break;
      case "stop-inheriting":
        cut.push(tree.position(change.itemId)!);
    }
  return { revoked, expires, narrowed, remade, dropped, left, cut: cut.sort((a, b) => a - b) };
}

/** Whoever isn't in the estate yet reaches nothing in it by other ways, and is told of by address alone. */
function knownAmong({ principals }: Estate, addresses: readonly string[]): Set<number> {
  return new Set(addresses.map((one) => principals.findAddress(one)).filter((one) => one !== undefined));
}

function addTo(sets: Map<number, Set<number>>, key: number, value: number) {
  const set = sets.get(key);
  if (set) set.add(value);
  else sets.set(key, new Set([value]));
}
