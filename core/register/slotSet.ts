import { grown } from "../estate/grow";

/** A set of slots in the order in which they came; of very many it takes a quarter of the room that a Set would. */
export class SlotSet implements Iterable<number> {
  private isIn = new Uint8Array(0);
  private readonly slots: number[] = [];

  constructor(slots: Iterable<number> = []) {
    for (const slot of slots) this.add(slot);
  }

  get size(): number {
    return this.slots.length;
  }

  has(slot: number): boolean {
    return this.isIn[slot] === 1;
  }

  add(slot: number) {
    if (this.has(slot)) return;
    this.isIn = grown(this.isIn, slot + 1);
    this.isIn[slot] = 1;
    this.slots.push(slot);
  }

  /** Its slots, the first that came first. */
  list(): readonly number[] {
    return this.slots;
  }

  [Symbol.iterator]() {
    return this.slots[Symbol.iterator]();
  }
}
