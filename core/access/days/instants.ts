import type { Ranges } from "../ranges";
import type { Seconds } from "../../time/instant";

/** Instants asked about together. What holds for a period holds at a range of their indexes. */
export class Instants {
  /** All of them. */
  readonly always: Ranges;
  private readonly first: Seconds;
  private readonly step: Seconds;

  /** @param all sorted */
  constructor(readonly all: readonly Seconds[]) {
    this.always = stretch(0, all.length);
    this.first = all[0];
    this.step = Math.max((all[all.length - 1] - all[0]) / (all.length - 1), 1) || 1;
  }

  get count(): number {
    return this.all.length;
  }

  /** Index of the first instant not before a time: guessed, since they are about equally far apart, and then corrected. */
  indexOf(at: Seconds): number {
    const { all, first, step } = this;
    if (all.length === 0 || at <= first) return 0;
    let index = Math.min(Math.ceil((at - first) / step), all.length);
    while (index > 0 && all[index - 1] >= at) index--;
    while (index < all.length && all[index] < at) index++;
    return index;
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
