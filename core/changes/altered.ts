import type { Altered } from "../access/altered";
import { normaliseAddress } from "../estate/address";
import type { Estate } from "../estate/estate";
import { NEVER, seconds, type Seconds } from "../time/instant";
import type { Change, Settings, ShareChange } from "./change";
import { idOfMade } from "./making";

/** The estate as some changes would leave it. The changes have been checked: everything they refer to exists here. */
export function alteredBy(estate: Estate, changes: readonly Change[]): Altered {
  const altered = new Changes(estate);
  for (const change of changes) altered.take(change);
  altered.cut.sort((a, b) => a - b);
  return altered;
}

class Changes implements Altered {
  readonly revoked = new Set<number>();
  readonly expires = new Map<number, Seconds>();
  readonly copied = new Map<number, Set<number>>();
  readonly strangers = new Map<string, Set<number>>();
  readonly narrowed = new Map<number, Set<number>>();
  readonly dropped = new Map<number, Set<number>>();
  readonly left = new Map<number, Set<number>>();
  readonly cut: number[] = [];
  readonly restored = new Set<number>();
  readonly reopened = new Map<number, "open" | "house">();
  readonly joined = new Map<number, Set<number>>();
  readonly uncut = new Set<number>();
  readonly owners = new Map<number, number>();

  constructor(private readonly estate: Estate) {}

  take(change: Change) {
    if ("shareId" in change) return this.takeOfShare(change, this.estate.shares.find(change.shareId)!);
    const { principals, tree } = this.estate;
    switch (change.action) {
      case "leave-group":
        return addTo(this.left, principals.findAddress(change.address)!, principals.findGroup(change.groupId)!);
      case "join-group":
        return addTo(this.joined, principals.findAddress(change.address)!, principals.findGroup(change.groupId)!);
      case "stop-inheriting":
        this.cut.push(tree.position(change.itemId)!);
        return;
      case "inherit":
        this.uncut.add(tree.position(change.itemId)!);
        return;
      case "new-link":
      case "new-grant":
        // It exists already, as revoked: now it comes into force.
        this.restored.add(this.estate.shares.find(idOfMade(change))!);
        return;
      case "hand-over":
        this.owners.set(tree.position(change.itemId)!, principals.findAddress(change.address)!);
    }
  }

  private takeOfShare(change: ShareChange, slot: number) {
    switch (change.action) {
      case "revoke":
        this.revoked.add(slot);
        break;
      case "set-expiry":
        this.expires.set(slot, seconds(change.expiresAt));
        break;
      case "make-link":
        this.copied.set(slot, this.people(slot, change.addresses));
        break;
      case "narrow":
        this.narrowed.set(slot, this.people(slot, change.addresses));
        break;
      case "drop-recipient":
        addTo(this.dropped, slot, this.estate.principals.findAddress(change.address)!);
        break;
      case "remake-link":
        this.restored.add(slot);
        break;
      case "put-back":
        this.putBack(slot, change.was);
    }
  }

  private putBack(slot: number, was: Settings) {
    if (was.revokedAt === null) this.restored.add(slot);
    if (was.expiresAt !== undefined) this.expires.set(slot, was.expiresAt === null ? NEVER : seconds(was.expiresAt));
    if (was.reach === "open" || was.reach === "house") this.reopened.set(slot, was.reach);
    else if (was.recipients)
      this.narrowed.set(
        slot,
        this.people(
          slot,
          was.recipients.map(({ email }) => email),
        ),
      );
  }

  /** The people behind some addresses, as far as the estate has them; the others become strangers. */
  private people(slot: number, addresses: readonly string[]): Set<number> {
    const people = new Set<number>();
    for (const address of addresses) {
      const person = this.estate.principals.findAddress(address);
      if (person === undefined) addTo(this.strangers, normaliseAddress(address), slot);
      else people.add(person);
    }
    return people;
  }
}

function addTo<K>(sets: Map<K, Set<number>>, key: K, value: number) {
  const set = sets.get(key);
  if (set) set.add(value);
  else sets.set(key, new Set([value]));
}
