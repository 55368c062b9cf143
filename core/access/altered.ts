import type { Seconds } from "../time/instant";

/** An estate as some changes would leave it, as the differences from what it is now, by slot, index and position. */
export interface Altered {
  revoked: ReadonlySet<number>;
  /** New ends of shares. */
  expires: ReadonlyMap<number, Seconds>;
  /** Links narrowed to some people. */
  narrowed: ReadonlyMap<number, ReadonlySet<number>>;
  /** Copies of links, made for some people; the links themselves stay. */
  copied: ReadonlyMap<number, ReadonlySet<number>>;
  /** By an address that nobody in the estate has: the links narrowed to it or copied for it. */
  strangers: ReadonlyMap<string, ReadonlySet<number>>;
  /** Of named links: recipients who are dropped. */
  dropped: ReadonlyMap<number, ReadonlySet<number>>;
  /** By person: the groups that they leave. */
  left: ReadonlyMap<number, ReadonlySet<number>>;
  /** Positions that stop inheriting, in order. */
  cut: readonly number[];
  /** Shares that are in force again, or have another like them in their place. */
  restored: ReadonlySet<number>;
  /** Links that are open to anyone again. */
  reopened: ReadonlyMap<number, "open" | "house">;
  /** By person: the groups that they join. */
  joined: ReadonlyMap<number, ReadonlySet<number>>;
  /** Positions that inherit again. */
  uncut: ReadonlySet<number>;
  /** By position: its new owner. */
  owners: ReadonlyMap<number, number>;
}

export const UNALTERED: Altered = {
  revoked: new Set(),
  expires: new Map(),
  narrowed: new Map(),
  copied: new Map(),
  strangers: new Map(),
  dropped: new Map(),
  left: new Map(),
  cut: [],
  restored: new Set(),
  reopened: new Map(),
  joined: new Map(),
  uncut: new Set(),
  owners: new Map(),
};
