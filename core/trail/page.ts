import type { Seconds } from "../time/instant";
import type { Act } from "./act";
import type { TrailSearch } from "./search";

/** Where a list of acts goes on: behind this act, towards the older ones. */
export interface ActPlace {
  at: Seconds;
  seq: number;
}

export interface ActsAsked {
  search: TrailSearch;
  before?: ActPlace;
  count: number;
}

/** The newest acts first; `next` is null where there are no more. */
export interface ActsPage {
  acts: Act[];
  next: ActPlace | null;
}

export interface GroupsAsked extends ActsAsked {
  /** In which days begin. */
  zone: string;
}

/** Like acts of a day as one: its newest, when the first was, how many, and by how many people that are known. */
export interface ActGroupLine {
  act: Act;
  first: Seconds;
  count: number;
  people: number;
}

export interface GroupsPage {
  groups: ActGroupLine[];
  next: ActPlace | null;
}
