import { foundInsiders } from "@/core/directory/asking";
import { type Insider, type InsiderOrder, insidersOf, sortedInsiders } from "@/core/directory/insiders";
import type { QueryProblem } from "@/core/query/query";
import type { Seconds } from "@/core/time/instant";
import type { ListAsked } from "./outsiderBook";
import type { Estate } from "@/core/estate/estate";

/** A page of insiders. */
export interface InsidersFound {
  /** How many there are, and how many of them were asked for. */
  total: number;
  found: number;
  page: Insider[];
  problems: QueryProblem[];
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

  page({ query, from, count, ...order }: ListAsked & InsiderOrder, t: Seconds): InsidersFound {
    const all = (this.held ??= insidersOf(this.estate));
    const key = `${order.by} ${order.reversed}`;
    const sorted = this.sorted.get(key) ?? sortedInsiders(all, order);
    this.sorted.set(key, sorted);
    const { found, problems } = foundInsiders(sorted, query, t);
    return { total: all.length, found: found.length, page: found.slice(from, from + count), problems };
  }
}
