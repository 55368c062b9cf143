import { firstOf, inOrder, type Keys } from "./order";

/** So many of the first are found without sorting all. */
const FIRST = 200;

/** What a query finds, in an order; sorted only as far as it is asked for. */
export class Listing {
  private sorted: Uint32Array | undefined;
  private first: Uint32Array | undefined;

  constructor(
    private readonly found: Uint32Array,
    private readonly keys: Keys,
  ) {}

  get length(): number {
    return this.found.length;
  }

  /** Slots of all that is found. */
  all(): Uint32Array {
    return (this.sorted ??= inOrder(this.found, this.keys));
  }

  slots(from: number, count: number): Uint32Array {
    if (this.sorted || from + count > FIRST) return this.all().subarray(from, from + count);
    this.first ??= firstOf(this.found, this.keys, FIRST);
    return this.first.subarray(from, from + count);
  }

  /**
   * Where the list continues after a share, whether or not that is still in it: so nothing is skipped and nothing
   * repeated when the list has changed since.
   */
  behind(slot: number): number {
    const all = this.all();
    let low = 0;
    let high = all.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.isBehind(all[middle], slot)) high = middle;
      else low = middle + 1;
    }
    return low;
  }

  private isBehind(slot: number, other: number): boolean {
    for (const key of this.keys) if (key[slot] !== key[other]) return key[slot] > key[other];
    return slot > other;
  }
}
