import type { Register } from "../register/register";

/**
 * The shares that can be found in an order in which those on an item and on all that lies below it, whatever it inherits, are
 * one range; worked out once for as long as the register stays as it is.
 */
export class Places {
  private version = -1;
  private slots = new Uint32Array(0);
  // By position of the item: where the shares on it and below it begin, and behind the last of them.
  private from = new Uint32Array(0);
  private to = new Uint32Array(0);

  constructor(private readonly register: Register) {}

  /** Sets a flag for each share that sits on some items, or below them. @param flags by slot; @param items by slot */
  mark(flags: Uint8Array, items: ArrayLike<number>) {
    this.keepUp();
    const { slots, from, to } = this;
    const { positionOf } = this.register.estate.tree;
    for (let i = 0; i < items.length; i++) {
      const position = positionOf[items[i]];
      // An item of which only a name is known has no place yet.
      if (position < 0 || position >= from.length) continue;
      for (let at = from[position]; at < to[position]; at++) flags[slots[at]] = 1;
    }
  }

  private keepUp() {
    if (this.version === this.register.version) return;
    this.version = this.register.version;
    const { knownSlots, estate } = this.register;
    const { position } = estate.shares;
    const { length, parent } = estate.tree;
    const own = new Uint32Array(length);
    for (const slot of knownSlots) own[position[slot]]++;
    // A parent always stands before its children.
    const all = own.slice();
    for (let at = length - 1; at >= 0; at--) if (parent[at] >= 0) all[parent[at]] += all[at];
    this.from = new Uint32Array(length);
    this.to = new Uint32Array(length);
    let top = 0;
    // Where the next child of each begins: after its own shares and the children before it.
    const next = own;
    for (let at = 0; at < length; at++) {
      const begins = parent[at] < 0 ? top : next[parent[at]];
      if (parent[at] < 0) top += all[at];
      else next[parent[at]] += all[at];
      this.from[at] = begins;
      this.to[at] = begins + all[at];
      next[at] += begins;
    }
    this.slots = new Uint32Array(knownSlots.length);
    const place = this.from.slice();
    for (const slot of knownSlots) this.slots[place[position[slot]]++] = slot;
  }
}
