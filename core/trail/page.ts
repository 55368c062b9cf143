import type { Seconds } from "../time/instant";
import type { TrailEvent } from "./event";
import type { TrailSearch } from "./search";

/** Where a list of events continues: after this event, towards older ones. */
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
  /** The time zone in which days begin. */
  zone: string;
}

/** Similar events of a day as one: the newest, when the first was, how many, and by how many known people. */
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
