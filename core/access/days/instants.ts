import type { Ranges } from "../ranges";
import type { Seconds } from "../../time/instant";

/** Instants that are asked about together. What holds for some time does so at a range of their indexes. */
export class Instants {
  /** All of them. */
  readonly always: Ranges;

  /** @param all sorted */
  constructor(readonly all: readonly Seconds[]) {
    this.always = all.length === 0 ? [] : [0, all.length];
  }

  get count(): number {
    return this.all.length;
  }

  /** Index of the first instant that is not before a time. */
  indexOf(at: Seconds): number {
    let low = 0;
    let high = this.all.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.all[middle] < at) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** The instants from one time on and before another. */
  between(from: Seconds, to: Seconds): Ranges {
    return stretch(this.indexOf(from), this.indexOf(to));
  }

  /** Those from a time on. */
  since(from: Seconds): Ranges {
    return stretch(this.indexOf(from), this.all.length);
  }
}

/** From one index on and before another; nothing where there is none between them. */
export function stretch(from: number, to: number): Ranges {
  return from < to ? [from, to] : [];
}
