import type { Estate } from "../estate/estate";
import { grown } from "../estate/grow";
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

// Where what is said of an entry stands in its piece of `instants` and `words`, which are views of one buffer.
export const ENTRY_INSTANTS = 5;
/** From when on it lets somebody in. */
export const OPENS = 0;
/** From when on it lets nobody in: its end or its revocation; ALWAYS where its uses are spent. */
export const ENDS = 1;
export const EXPIRES = 2;
export const ENTRY_WORDS = 2 * ENTRY_INSTANTS;
// Its people in the pool of members, outsiders first.
export const FROM = 6;
export const INSIDERS_FROM = 7;
export const TO = 8;
export const TRAITS = 9;

/**
 * What a sweep has to look at, in the order of the tree: the shares, and the items with an owner, that
 * can matter at any instant. All that a sweep asks of an entry stands in one piece, so that it reads straight
 * on, and so that an entry is written to one place. It holds until positions or people change; one share is
 * put in or changed in place.
 */
export class Plan {
  length = 0;
  /** Of each entry. */
  positions = new Int32Array(0);
  instants: Instants = new Float64Array(0);
  words = new Int32Array(0);
  /** Slot of the share; the complement of the item's slot where it is an ownership. */
  private keys = new Int32Array(0);

  constructor(
    private readonly estate: Estate,
    private readonly scope: Scope,
  ) {
    const keys = this.mattering();
    const { positions, order } = sortByPosition(this.positionsOf(keys));
    this.length = keys.length;
    this.positions = positions;
    this.keys = new Int32Array(keys.length);
    this.hold(new ArrayBuffer(keys.length * ENTRY_INSTANTS * Float64Array.BYTES_PER_ELEMENT));
    const rank = new Int32Array(keys.length);
    for (let i = 0; i < order.length; i++) rank[order[i]] = i;
    // In the order of slots: the columns of shares are read straight on then.
    for (let i = 0; i < keys.length; i++) this.write(rank[i], keys[i]);
  }

  private hold(buffer: ArrayBuffer) {
    this.instants = new Float64Array(buffer);
    this.words = new Int32Array(buffer);
  }

  /** Keys of all entries, in the order of their slots. */
  private mattering(): Int32Array<ArrayBuffer> {
    const shared = this.shared();
    const owned = this.owned();
    const all = new Int32Array(shared.length + owned.length);
    all.set(shared);
    all.set(owned, shared.length);
    return all;
  }

  private shared(): Int32Array {
    // What the loop reads again and again is in local names: at a million items that matters.
    const { count, position } = this.estate.shares;
    const { live } = this.estate.tree;
    const slots = new Int32Array(count);
    let length = 0;
    for (let slot = 0; slot < count; slot++)
      if (position[slot] >= 0 && this.letsIn(slot) && live[position[slot]] === 1) slots[length++] = slot;
    return slots.subarray(0, length);
  }

  /** Keys of the live items whose owner counts. */
  private owned(): number[] {
    const { items, tree } = this.estate;
    const { owner, count } = items;
    const { positionOf, live } = tree;
    const counts = this.ownersWhoCount();
    const keys: number[] = [];
    for (let slot = 0; slot < count; slot++)
      if (owner[slot] >= 0 && counts[owner[slot]] === 1 && positionOf[slot] >= 0 && live[positionOf[slot]] === 1)
        keys.push(~slot);
    return keys;
  }

  /** 1 for each handle of somebody active whom the sweep counts. There are far fewer of them than items. */
  private ownersWhoCount(): Uint8Array {
    const { personOf, active, insider } = this.estate.principals;
    const counts = new Uint8Array(personOf.length);
    for (let handle = 0; handle < personOf.length; handle++) {
      const person = personOf[handle];
      if (person >= 0 && active[person] === 1) counts[handle] = this.scope === "everyone" ? 1 : 1 - insider[person];
    }
    return counts;
  }

  private positionsOf(keys: Int32Array): Int32Array<ArrayBuffer> {
    const { position } = this.estate.shares;
    const { positionOf } = this.estate.tree;
    const positions = new Int32Array(keys.length);
    for (let i = 0; i < keys.length; i++) positions[i] = keys[i] < 0 ? positionOf[~keys[i]] : position[keys[i]];
    return positions;
  }

  private matters(slot: number): boolean {
    const { shares, tree } = this.estate;
    const position = shares.position[slot];
    return position >= 0 && this.letsIn(slot) && tree.live[position] === 1;
  }

  /** Whether a share, were it live, would let in somebody who is counted. */
  private letsIn(slot: number): boolean {
    return this.scope === "everyone" ? this.estate.shares.audience[slot] !== NOBODY : leadsOutside(this.estate, slot);
  }

  private write(i: number, key: number) {
    this.keys[i] = key;
    if (key < 0) return this.writeOwner(i, this.estate.principals.audienceOf(this.estate.items.owner[~key])!);
    const { shares } = this.estate;
    const expires = shares.expires[key];
    const ends = shares.isSpent(key) ? ALWAYS : Math.min(expires, shares.revoked[key]);
    const traits =
      (shares.audience[key] === OPEN ? TO_ANYONE : 0) |
      (shares.audience[key] === HOUSE && this.scope === "everyone" ? TO_HOUSE : 0) |
      (shares.hasPassword(key) ? KEYED : 0) |
      (leadsOutside(this.estate, key) ? OUTSIDE : 0) |
      (shares.download[key] === 1 ? DOWNLOAD : 0) |
      (shares.role[key] << ROLE_SHIFT);
    this.writeInstants(i, shares.opens[key], ends, expires);
    this.writeWords(i, shares.membersFrom[key], shares.insidersFrom[key], shares.membersTo[key], traits);
  }

  private writeOwner(i: number, { from, insidersFrom, to }: Members) {
    const traits = (insidersFrom > from ? OUTSIDE : 0) | DOWNLOAD | (MANAGE << ROLE_SHIFT);
    this.writeInstants(i, ALWAYS, NEVER, NEVER);
    this.writeWords(i, from, insidersFrom, to, traits);
  }

  private writeInstants(i: number, opens: Seconds, ends: Seconds, expires: Seconds) {
    const at = i * ENTRY_INSTANTS;
    this.instants[at + OPENS] = opens;
    this.instants[at + ENDS] = ends;
    this.instants[at + EXPIRES] = expires;
  }

  private writeWords(i: number, from: number, insidersFrom: number, to: number, traits: number) {
    const at = i * ENTRY_WORDS;
    this.words[at + FROM] = from;
    this.words[at + INSIDERS_FROM] = insidersFrom;
    this.words[at + TO] = to;
    this.words[at + TRAITS] = traits;
  }

  /** Whether an entry lets somebody in at t. */
  isInForce(entry: number, t: Seconds): boolean {
    const at = entry * ENTRY_INSTANTS;
    return this.instants[at + ENDS] > t && this.instants[at + OPENS] <= t;
  }

  /** When after t the next of the entries opens or ends; NEVER where none does. */
  nextChangeAfter(t: Seconds): Seconds {
    const { instants } = this;
    let next = NEVER;
    for (let at = 0; at < this.length * ENTRY_INSTANTS; at += ENTRY_INSTANTS) {
      if (instants[at + OPENS] > t && instants[at + OPENS] < next) next = instants[at + OPENS];
      if (instants[at + ENDS] > t && instants[at + ENDS] < next) next = instants[at + ENDS];
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
    const length = this.length + 1;
    this.positions = grown(this.positions, length);
    this.keys = grown(this.keys, length);
    const words = grown(this.words, length * ENTRY_WORDS);
    if (words !== this.words) this.hold(words.buffer);
    this.positions.copyWithin(at + 1, at, this.length);
    this.keys.copyWithin(at + 1, at, this.length);
    this.words.copyWithin((at + 1) * ENTRY_WORDS, at * ENTRY_WORDS, this.length * ENTRY_WORDS);
    this.length++;
    this.positions[at] = position;
  }
}
