import { NO_RISK, type Register } from "../register/register";
import { LEVELS, type Level } from "../rules/risk";
import { ALWAYS, type Seconds } from "../time/instant";

/** By what groups can be sorted: as their first shares come, or by something of all their shares. */
export const GROUP_ORDERS = ["first", "count", "risk", "latches", "used", "name"] as const;
export type GroupOrder = (typeof GROUP_ORDERS)[number];

/** Totals of a group's shares. */
export interface GroupTotals {
  count: number;
  /** The worst of their risks; null where none has any. */
  risk: Level | null;
  /** How many lack a latch that a rule requires. */
  open: number;
  /** The latest use of any; null where none was ever used. */
  lastUsed: Seconds | null;
}

const NOTHING = -1;

/** The totals of some groups, each known by a number. */
export class Totals {
  private readonly counts: Uint32Array;
  /** An index among the levels; the higher, the worse. */
  private readonly worst: Int8Array;
  private readonly lacking: Uint32Array;
  private readonly used: Float64Array;

  constructor(
    private readonly register: Register,
    groups: number,
  ) {
    this.counts = new Uint32Array(groups);
    this.worst = new Int8Array(groups).fill(NOTHING);
    this.lacking = new Uint32Array(groups);
    this.used = new Float64Array(groups).fill(ALWAYS);
  }

  count(group: number): number {
    return this.counts[group];
  }

  /** Counts a share in a group. */
  add(group: number, slot: number) {
    const { profile, profiles, estate } = this.register;
    const { risk, latches } = profiles.columns;
    const level = risk[profile[slot]];
    this.counts[group]++;
    if (level !== NO_RISK) this.worst[group] = Math.max(this.worst[group], level);
    if (latches[profile[slot]] !== 0) this.lacking[group]++;
    this.used[group] = Math.max(this.used[group], estate.shares.lastUsed[slot]);
  }

  /** Counts all shares of one group in another as well. */
  addAll(to: number, from: number) {
    this.counts[to] += this.counts[from];
    this.worst[to] = Math.max(this.worst[to], this.worst[from]);
    this.lacking[to] += this.lacking[from];
    this.used[to] = Math.max(this.used[to], this.used[from]);
  }

  of(group: number): GroupTotals {
    return {
      count: this.counts[group],
      risk: this.worst[group] === NOTHING ? null : LEVELS[this.worst[group]],
      open: this.lacking[group],
      lastUsed: this.used[group] === ALWAYS ? null : this.used[group],
    };
  }

  /** Which of two groups comes first: the larger, the riskier, the one with more open, the one used last. */
  compare(order: GroupOrder, a: number, b: number): number {
    switch (order) {
      case "count":
        return this.counts[b] - this.counts[a];
      case "risk":
        return this.worst[b] - this.worst[a];
      case "latches":
        return this.lacking[b] - this.lacking[a];
      case "used":
        return this.used[b] - this.used[a];
      default:
        return 0;
    }
  }
}
