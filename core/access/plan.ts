import type { Estate } from "../estate/estate";
import type { Members } from "../estate/principals";
import { ROLES } from "../estate/records";
import { AUDIENCES, HOUSE, OPEN } from "../estate/shares";
import { ALWAYS, type Instants, NEVER, type Seconds } from "../time/instant";
import { leadsOutside } from "./live";
import { sortByPosition } from "./sortByPosition";

/** What a sweep counts: ways in from outside only, or everybody's. */
export type Scope = "outside" | "everyone";

const NOBODY = AUDIENCES.indexOf("nobody");
const MANAGE = ROLES.indexOf("manage");

// What is said of an entry in its traits.
export const TO_ANYONE = 1;
export const TO_HOUSE = 2;
export const KEYED = 4;
export const OUTSIDE = 8;
export const DOWNLOAD = 16;
/** The role, as an index into ROLES, stands above the other traits. */
export const ROLE_SHIFT = 5;

const COLUMNS = ["positions", "keys", "opens", "ends", "expires", "traits", "from", "insidersFrom", "to"] as const;

/**
 * What a sweep has to look at, in the order of the tree: the shares, and the items with an owner, that
 * can matter at any instant. All that a sweep asks of them is written out beside each other, so that it
 * reads straight on. It holds until positions or people change; one share is put in or changed in place.
 */
export class Plan {
  length = 0;
  // Of each entry.
  positions = new Int32Array(0);
  /** Slot of the share; the complement of the item's slot where it is an ownership. */
  keys = new Int32Array(0);
  opens: Instants = new Float64Array(0);
  /** From when on it lets nobody in: its end or its revocation; ALWAYS where its uses are spent. */
  ends: Instants = new Float64Array(0);
  expires: Instants = new Float64Array(0);
  traits = new Uint8Array(0);
  /** Its people in the pool of members, outsiders first. */
  from = new Int32Array(0);
  insidersFrom = new Int32Array(0);
  to = new Int32Array(0);

  constructor(
    private readonly estate: Estate,
    private readonly scope: Scope,
  ) {
    const { positions, keys } = this.sorted();
    this.makeRoom(keys.length);
    this.length = keys.length;
    this.positions = positions;
    for (let i = 0; i < keys.length; i++) this.write(i, keys[i]);
  }

  private sorted() {
    const { shares, tree, items } = this.estate;
    const { owner } = items;
    const keys = new Int32Array(shares.count);
    let length = 0;
    for (let slot = 0; slot < shares.count; slot++) if (this.matters(slot)) keys[length++] = slot;
    const owned: number[] = [];
    for (let slot = 0; slot < items.count; slot++) if (owner[slot] >= 0 && this.isOwned(slot)) owned.push(~slot);
    const all = new Int32Array(length + owned.length);
    all.set(keys.subarray(0, length));
    all.set(owned, length);
    const positions = all.map((key) => (key < 0 ? tree.positionOf[~key] : shares.position[key]));
    return sortByPosition(positions, all);
  }

  /** Whether an item is live, and its owner counts. */
  private isOwned(item: number): boolean {
    const { items, principals, tree } = this.estate;
    const owner = principals.personOf[items.owner[item]];
    if (owner < 0 || principals.active[owner] === 0 || (this.scope === "outside" && principals.insider[owner] === 1))
      return false;
    return tree.positionOf[item] >= 0 && tree.live[tree.positionOf[item]] === 1;
  }

  private matters(slot: number): boolean {
    const { shares, tree } = this.estate;
    const position = shares.position[slot];
    if (position < 0 || tree.live[position] === 0) return false;
    return this.scope === "everyone" ? shares.audience[slot] !== NOBODY : leadsOutside(this.estate, slot);
  }

  private write(i: number, key: number) {
    this.keys[i] = key;
    if (key < 0) return this.writeOwner(i, this.estate.principals.audienceOf(this.estate.items.owner[~key])!);
    const { shares } = this.estate;
    this.opens[i] = shares.opens[key];
    this.ends[i] = shares.isSpent(key) ? ALWAYS : Math.min(shares.expires[key], shares.revoked[key]);
    this.expires[i] = shares.expires[key];
    this.from[i] = shares.membersFrom[key];
    this.insidersFrom[i] = shares.insidersFrom[key];
    this.to[i] = shares.membersTo[key];
    this.traits[i] =
      (shares.audience[key] === OPEN ? TO_ANYONE : 0) |
      (shares.audience[key] === HOUSE && this.scope === "everyone" ? TO_HOUSE : 0) |
      (shares.hasPassword(key) ? KEYED : 0) |
      (leadsOutside(this.estate, key) ? OUTSIDE : 0) |
      (shares.download[key] === 1 ? DOWNLOAD : 0) |
      (shares.role[key] << ROLE_SHIFT);
  }

  private writeOwner(i: number, { from, insidersFrom, to }: Members) {
    this.opens[i] = ALWAYS;
    this.ends[i] = NEVER;
    this.expires[i] = NEVER;
    this.from[i] = from;
    this.insidersFrom[i] = insidersFrom;
    this.to[i] = to;
    this.traits[i] = (insidersFrom > from ? OUTSIDE : 0) | DOWNLOAD | (MANAGE << ROLE_SHIFT);
  }

  /** When after t the next of the entries opens or ends; NEVER where none does. */
  nextChangeAfter(t: Seconds): Seconds {
    let next = NEVER;
    for (let i = 0; i < this.length; i++) {
      if (this.opens[i] > t && this.opens[i] < next) next = this.opens[i];
      if (this.ends[i] > t && this.ends[i] < next) next = this.ends[i];
    }
    return next;
  }

  /** The first entry at a position or behind it. */
  firstFrom(position: number): number {
    let low = 0;
    let high = this.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.positions[middle] < position) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** Takes in what has become of the share in a slot; it sits where it sat. */
  update(slot: number) {
    const position = this.estate.shares.position[slot];
    let at = this.firstFrom(position);
    while (at < this.length && this.positions[at] === position && this.keys[at] !== slot) at++;
    const isHere = at < this.length && this.positions[at] === position;
    // One that no longer matters stays where it is and lets nobody in.
    if (!isHere && !this.matters(slot)) return;
    if (!isHere) this.insert(at, position);
    this.write(at, slot);
  }

  private insert(at: number, position: number) {
    if (this.length === this.positions.length) this.makeRoom(Math.ceil(this.length * 1.2) + 16);
    for (const name of COLUMNS) this[name].copyWithin(at + 1, at, this.length);
    this.length++;
    this.positions[at] = position;
  }

  private makeRoom(length: number) {
    const longer = <C extends Float64Array | Int32Array | Uint8Array>(column: C): C => {
      const copy = new (column.constructor as new (length: number) => C)(length);
      copy.set(column);
      return copy;
    };
    this.positions = longer(this.positions);
    this.keys = longer(this.keys);
    this.opens = longer(this.opens);
    this.ends = longer(this.ends);
    this.expires = longer(this.expires);
    this.traits = longer(this.traits);
    this.from = longer(this.from);
    this.insidersFrom = longer(this.insidersFrom);
    this.to = longer(this.to);
  }
}
