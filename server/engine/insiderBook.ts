import {
  chosenInsiders,
  type Insider,
  type InsiderQuestion,
  insidersOf,
  sortedInsiders,
} from "@/core/directory/insiders";
import type { Estate } from "@/core/estate/estate";

/** A page of insiders. */
export interface InsidersFound {
  /** How many there are, and how many of them were asked for. */
  total: number;
  found: number;
  page: Insider[];
}

/** Answers about insiders. All of them are put together at once, and held until something changes. */
export class InsiderBook {
  private held: Insider[] | undefined;
  /** The same in the orders that were asked for. */
  private readonly sorted = new Map<string, Insider[]>();

  constructor(private readonly estate: Estate) {}

  /** Learns that the estate has changed. */
  forget() {
    this.held = undefined;
    this.sorted.clear();
  }

  page({ from, count, ...asked }: InsiderQuestion & { from: number; count: number }): InsidersFound {
    const all = (this.held ??= insidersOf(this.estate));
    const key = `${asked.by} ${asked.reversed}`;
    const sorted = this.sorted.get(key) ?? sortedInsiders(all, asked);
    this.sorted.set(key, sorted);
    const found = chosenInsiders(sorted, asked);
    return { total: all.length, found: found.length, page: found.slice(from, from + count) };
  }
}
