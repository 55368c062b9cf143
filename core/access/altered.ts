import type { Seconds } from "../time/instant";

/** An estate as some changes would leave it, told by what differs. All by slot, index and position. */
export interface Altered {
  revoked: ReadonlySet<number>;
  /** New ends of shares. */
  expires: ReadonlyMap<number, Seconds>;
  /** Links that are for some people alone from now on; they may be revoked, and made anew for those. */
  narrowed: ReadonlyMap<number, ReadonlySet<number>>;
  /** Of named links: recipients who are dropped. */
  dropped: ReadonlyMap<number, ReadonlySet<number>>;
  /** By person: the groups that they leave. */
  left: ReadonlyMap<number, ReadonlySet<number>>;
  /** Positions that stop inheriting, in order. */
  cut: readonly number[];
}

export const UNALTERED: Altered = {
  revoked: new Set(),
  expires: new Map(),
  narrowed: new Map(),
  dropped: new Map(),
  left: new Map(),
  cut: [],
};
