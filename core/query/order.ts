import { NO_RISK, type Register } from "../register/register";
import { ALWAYS, type Instants } from "../time/instant";

export const SORTS = ["risk", "item", "for", "role", "ends", "used", "made", "maker", "findings", "items"] as const;
export type Sort = (typeof SORTS)[number];

/** One thing to sort by. Unreversed is what a reader expects first: the riskiest, the soonest to end, the newest. */
export interface SortKey {
  by: Sort;
  reversed: boolean;
}
/** By the first; where that is equal by the second; and then in the order in which the shares were first heard of. */
export type Order = readonly SortKey[];
export const MOST_KEYS = 2;

/** An order as the address bar has it: `risk`, `-ends`, `risk,-used`. Null where it isn't one. */
export function parseOrder(text: string): Order | null {
  const keys = text.split(",").map((part) => ({ by: part.replace(/^-/, "") as Sort, reversed: part.startsWith("-") }));
  const isOrder = keys.every(({ by }) => SORTS.includes(by)) && keys.length <= MOST_KEYS;
  return isOrder && new Set(keys.map(({ by }) => by)).size === keys.length ? keys : null;
}

export function printOrder(order: Order): string {
  return order.map(({ by, reversed }) => (reversed ? "-" : "") + by).join();
}

/** What shares are sorted by, ready for use: by slot, a whole number below 2^39, the smallest first. */
export type Key = Float64Array<ArrayBuffer>;
export type Keys = readonly Key[];

/** The keys of sorts, each worked out once for as long as the register stays as it is. */
export class SortColumns {
  private version = -1;
  private readonly columns = new Map<string, Key>();

  constructor(private readonly register: Register) {}

  keys(order: Order): Keys {
    if (this.version !== this.register.version) this.columns.clear();
    this.version = this.register.version;
    return order.map((key) => this.column(key));
  }

  private column(key: SortKey): Key {
    const name = printOrder([key]);
    let column = this.columns.get(name);
    if (!column) {
      column = sortColumn(this.register, key.by);
      if (key.reversed) column = turned(column);
      this.columns.set(name, column);
    }
    return column;
  }
}

function sortColumn(register: Register, by: Sort): Key {
  const { length, estate, names, audiences } = register;
  const { shares } = estate;
  const { risk: risks, role: roles } = register.profiles.columns;
  switch (by) {
    case "risk":
      // No risk comes last.
      return withinRisk(
        byProfile(register, (profile) => (risks[profile] === NO_RISK ? 99 : NO_RISK - risks[profile])),
        register.findings,
      );
    case "item":
      return ranked(length, register.name, names.ranks);
    case "for":
      return ranked(length, register.audience, audiences.ranks);
    case "role":
      return byProfile(register, (profile) => 9 - roles[profile]);
    case "ends":
      return since(shares.ends.subarray(0, length));
    case "used":
      return since(shares.lastUsed.subarray(0, length));
    case "made":
      return turned(since(shares.made.subarray(0, length)));
    case "maker":
      return ranked(length, register.makerName, register.makerNames.ranks);
    case "findings":
      return turned(register.findings.subarray(0, length));
    case "items":
      return turned(register.items.subarray(0, length));
  }
}

/** Of equal risks, more findings first. */
function withinRisk(risk: Key, findings: Uint32Array): Key {
  const made = new Float64Array(risk.length);
  for (let slot = 0; slot < made.length; slot++) made[slot] = risk[slot] * 64 + 63 - findings[slot];
  return made;
}

/** Instants as whole numbers from 0 on. */
function since(column: Instants): Key {
  const made = new Float64Array(column.length);
  for (let slot = 0; slot < made.length; slot++) made[slot] = column[slot] - ALWAYS;
  return made;
}

/** The other way round: the largest are the smallest. */
function turned(column: ArrayLike<number>): Key {
  const made = new Float64Array(column.length);
  for (let slot = 0; slot < made.length; slot++) made[slot] = LARGEST - column[slot];
  return made;
}

/** What is the same for all shares of a profile is worked out once for each. */
function byProfile({ length, profile, profiles }: Register, value: (profile: number) => number): Key {
  const values = new Float64Array(profiles.count);
  for (let number = 0; number < values.length; number++) values[number] = value(number);
  const made = new Float64Array(length);
  for (let slot = 0; slot < length; slot++) made[slot] = values[profile[slot]];
  return made;
}

function ranked(length: number, numbers: Uint32Array, ranks: Uint32Array): Key {
  const made = new Float64Array(length);
  for (let slot = 0; slot < length; slot++) made[slot] = ranks[numbers[slot]];
  return made;
}

/** The first of some slots in an order, without sorting the others. @param slots in rising order */
export function firstOf(slots: Uint32Array, keys: Keys, count: number): Uint32Array {
  if (slots.length <= count) return inOrder(slots, keys);
  return new Heap(keys, count).take(slots);
}

/** So many bits hold all instants, counted from the first. */
const KEY_BITS = 39;
const LARGEST = 2 ** KEY_BITS - 1;
const BITS = 16;
const DIGITS = 2 ** BITS;

/** All of some slots in an order: by least significant digits first, so that what is equal stays in its order. */
export function inOrder(slots: Uint32Array, keys: Keys): Uint32Array {
  let sorted = slots.slice();
  let spare = new Uint32Array(sorted.length);
  for (const key of [...keys].reverse())
    for (let shift = 0; shift < KEY_BITS; shift += BITS)
      if (sortByDigit(sorted, spare, key, shift)) [sorted, spare] = [spare, sorted];
  return sorted;
}

/** @returns whether anything had to move */
function sortByDigit(from: Uint32Array, to: Uint32Array, key: Key, shift: number): boolean {
  const step = 2 ** -shift;
  const starts = new Uint32Array(DIGITS + 1);
  for (let i = 0; i < from.length; i++) starts[((key[from[i]] * step) & (DIGITS - 1)) + 1]++;
  // Often a whole half of the keys is alike: that of years, say, or of small numbers.
  if (from.length > 0 && starts[((key[from[0]] * step) & (DIGITS - 1)) + 1] === from.length) return false;
  for (let digit = 0; digit < DIGITS; digit++) starts[digit + 1] += starts[digit];
  for (let i = 0; i < from.length; i++) to[starts[(key[from[i]] * step) & (DIGITS - 1)]++] = from[i];
  return true;
}

/** Keeps the first so many slots in an order, the last of them on top. */
class Heap {
  private readonly slots: Uint32Array;
  private readonly first: Key;
  private readonly second: Key;

  constructor(
    private readonly keys: Keys,
    private readonly count: number,
  ) {
    this.slots = new Uint32Array(count);
    this.first = keys[0];
    this.second = keys[1] ?? keys[0];
  }

  /** @param slots more than are kept, in rising order: of equal ones the earlier stays */
  take(slots: Uint32Array): Uint32Array {
    const { first, second, count } = this;
    this.slots.set(slots.subarray(0, count));
    for (let at = count >> 1; at >= 0; at--) this.sink(at);
    let top = this.slots[0];
    for (let i = count; i < slots.length; i++) {
      const slot = slots[i];
      if (first[slot] > first[top] || (first[slot] === first[top] && second[slot] >= second[top])) continue;
      this.slots[0] = slot;
      this.sink(0);
      top = this.slots[0];
    }
    return inOrder(this.slots.slice().sort(), this.keys);
  }

  private sink(at: number) {
    const { slots, count } = this;
    for (;;) {
      const left = 2 * at + 1;
      if (left >= count) return;
      const child = left + 1 < count && this.isAfter(slots[left + 1], slots[left]) ? left + 1 : left;
      if (!this.isAfter(slots[child], slots[at])) return;
      [slots[at], slots[child]] = [slots[child], slots[at]];
      at = child;
    }
  }

  private isAfter(a: number, b: number): boolean {
    if (this.first[a] !== this.first[b]) return this.first[a] > this.first[b];
    if (this.second[a] !== this.second[b]) return this.second[a] > this.second[b];
    return a > b;
  }
}
