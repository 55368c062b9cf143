import type { RegisterRow } from "../register/columns";
import type { Facet, Histogram } from "./facets";
import type { Order } from "./order";
import type { GroupHead, Grouping } from "./outline";
import type { GroupOrder } from "./totals";
import type { QueryProblem } from "./query";

/** One line of the register: a share, or the head of a group of shares. */
export type RegisterLine = { kind: "share"; row: RegisterRow; depth: number } | ({ kind: "group" } & GroupHead);

/** Some lines of what a query finds. */
export interface RegisterPage {
  total: number;
  /** How many shares are found, and how many lines there are: heads of groups count, shares in shut groups don't. */
  found: number;
  lines: number;
  /** Number of the first line here, and the lines from there on. */
  from: number;
  page: RegisterLine[];
  problems: QueryProblem[];
  /**
   * How many more would be found if what is asked of their last use were left out, and it isn't known; null where
   * nothing is asked of it.
   */
  useUnknown: number | null;
}

export interface Funnel {
  facets: Facet[];
  histograms: Histogram[];
}

export interface PageAsked {
  query: string;
  order: Order;
  group: Grouping | null;
  /** How groups are sorted; by their first shares where this is left out. */
  groups?: GroupOrder;
  /** Keys of the groups that are open. */
  open: string[];
  from: number;
  count: number;
  /** Id of the share after which to continue, whatever `from` says; ignored where the list is grouped. */
  behind?: string;
}
