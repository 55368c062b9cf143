import type { Estate } from "../../estate/estate";
import { LIVE } from "../../estate/items";
import { both, type Ranges, union } from "../ranges";
import type { Changes } from "./changes";
import { type Instants, stretch } from "./instants";

/** A period in which an item was live, provided that everything above it was. */
interface Period {
  /** Slot of its parent; -1 for a top item. */
  parent: number;
  ranges: Ranges;
}

/** At which of many instants items were live, they and all above them. */
export class ItemDays {
  /** By slot: index from which on the item has been as it is now. */
  private readonly since: Int32Array;
  /** By position: index from which on it and all above it have been live as they are now; behind the last where they aren't. */
  private readonly liveSince: Int32Array;
  /** By position: 1 where it, or something above it, was otherwise within the time. */
  private readonly isOdd: Uint8Array;
  /** By slot: what an item was before, where it was live then. */
  private readonly before = new Map<number, Period[]>();
  private readonly known = new Map<number, Ranges>();

  constructor(
    private readonly estate: Estate,
    { ended }: Changes,
    private readonly instants: Instants,
  ) {
    const { items, tree } = estate;
    this.since = new Int32Array(items.count);
    for (let slot = 0; slot < items.count; slot++) this.since[slot] = instants.indexOf(items.since[slot]);
    for (const { record, from, to } of ended)
      if (record.type === "item")
        this.keep(record.id, record.parentId, record.state === "live", instants.between(from, to));
    this.liveSince = new Int32Array(tree.length);
    this.isOdd = new Uint8Array(tree.length);
    this.goDown();
  }

  /** A parent always stands before its children. */
  private goDown() {
    const { since, liveSince, isOdd, before, instants } = this;
    const { length, slotAt, parent, live } = this.estate.tree;
    const areSome = before.size > 0;
    for (let at = 0; at < length; at++) {
      const slot = slotAt[at];
      const above = parent[at];
      const begun = above < 0 ? since[slot] : Math.max(since[slot], liveSince[above]);
      liveSince[at] = live[at] === 1 ? begun : instants.count;
      if (areSome && (before.has(slot) || (above >= 0 && isOdd[above] === 1))) isOdd[at] = 1;
    }
  }

  private keep(id: string, parentId: string | null, isLive: boolean, ranges: Ranges) {
    const { items } = this.estate;
    const slot = items.find(id);
    if (slot === undefined) return;
    const periods = this.before.get(slot) ?? [];
    this.before.set(slot, periods);
    // An item below something unknown was nowhere.
    const parent = parentId === null ? -1 : items.find(parentId);
    if (isLive && parent !== undefined) periods.push({ parent, ranges });
  }

  /** Index from which an item has been live without a break; -1 where that isn't the whole story. */
  simplyLiveSince(slot: number): number {
    const position = this.estate.tree.positionOf[slot] ?? -1;
    return position < 0 || this.isOdd[position] === 1 ? -1 : this.liveSince[position];
  }

  /** When the item in a slot, and all above it, was live. */
  live(slot: number): Ranges {
    const simple = this.simplyLiveSince(slot);
    if (simple >= 0) return stretch(simple, this.instants.count);
    const known = this.known.get(slot);
    if (known) return known;
    // On a circle of parents nothing is live.
    this.known.set(slot, []);
    const ranges = union(
      this.periodsOf(slot).flatMap(({ parent, ranges }) => (parent < 0 ? ranges : both(ranges, this.live(parent)))),
    );
    this.known.set(slot, ranges);
    return ranges;
  }

  private periodsOf(slot: number): Period[] {
    const { items } = this.estate;
    const before = this.before.get(slot) ?? [];
    if (items.state[slot] !== LIVE) return before;
    return [...before, { parent: items.parent[slot], ranges: stretch(this.since[slot], this.instants.count) }];
  }
}
