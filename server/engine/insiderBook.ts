import { INSIDER_ASKABLE } from "@/core/directory/asking";
import { type Insider, type InsiderOrder, insidersOf, sortedInsiders } from "@/core/directory/insiders";
import { type ListAsked, listPage } from "@/core/query/listed";
import type { Seconds } from "@/core/time/instant";
import type { Estate } from "@/core/estate/estate";

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

  page(asked: ListAsked & InsiderOrder, t: Seconds) {
    const all = (this.held ??= insidersOf(this.estate));
    const key = `${asked.by} ${asked.reversed}`;
    const sorted = this.sorted.get(key) ?? sortedInsiders(all, asked);
    this.sorted.set(key, sorted);
    return listPage(sorted, asked, INSIDER_ASKABLE, t);
  }
}
