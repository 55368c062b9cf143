const STEP = 1 << 10;

/** The events whose kinds are counted: by row, an index into `kinds`. */
interface Kinds {
  readonly kind: ArrayLike<number>;
  readonly kinds: readonly unknown[];
}

/** Counts of events by kind at regular steps: searches for dates and kinds alone are answered from them. */
export class Rollup {
  private sums: Uint32Array[] = [];

  constructor(private readonly trail: Kinds) {}

  /** Rows have changed from here on. */
  changedFrom(row: number) {
    // The sums at a step stand for the rows before it.
    this.sums.length = Math.min(this.sums.length, Math.floor(row / STEP) + 1);
  }

  /** By kind: how many events stand before a row. */
  before(row: number): Uint32Array {
    const { kind, kinds } = this.trail;
    const step = Math.floor(row / STEP);
    const counts = new Uint32Array(kinds.length);
    counts.set(this.sumAt(step));
    for (let at = step * STEP; at < row; at++) counts[kind[at]]++;
    return counts;
  }

  private sumAt(step: number): Uint32Array {
    const { kind, kinds } = this.trail;
    if (this.sums.length === 0) this.sums.push(new Uint32Array(0));
    for (let known = this.sums.length; known <= step; known++) {
      const sum = new Uint32Array(kinds.length);
      sum.set(this.sums[known - 1]);
      for (let row = (known - 1) * STEP; row < known * STEP; row++) sum[kind[row]]++;
      this.sums.push(sum);
    }
    return this.sums[step];
  }
}
