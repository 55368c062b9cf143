import type { Seconds } from "../time/instant";
import type { TrailEvent } from "./event";
import type { TrailSearch } from "./search";

/** Where a list of events goes on: behind this event, towards the older ones. */
export interface EventPlace {
  at: Seconds;
  seq: number;
}

export interface EventsAsked {
  search: TrailSearch;
  before?: EventPlace;
  count: number;
}

/** The newest events first; `next` is null where there are no more. */
export interface EventsPage {
  events: TrailEvent[];
  next: EventPlace | null;
}

export interface GroupsAsked extends EventsAsked {
  /** In which days begin. */
  zone: string;
}

/** Like events of a day as one: its newest, when the first was, how many, and by how many people that are known. */
export interface EventGroupLine {
  event: TrailEvent;
  first: Seconds;
  count: number;
  people: number;
}

export interface GroupsPage {
  groups: EventGroupLine[];
  next: EventPlace | null;
}
