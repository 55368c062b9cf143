import { type TrailEvent } from "@/core/trail/event";
import { type TrailCounts, trailCounts, type TrailFacets, trailFacets } from "@/core/trail/counts";
import { groupsOf } from "@/core/trail/groups";
import type { EventGroupLine, EventsAsked, EventsPage, GroupsAsked, GroupsPage } from "@/core/trail/page";
import type { TrailSearch } from "@/core/trail/search";
import { type FlagsOfWord, Trail } from "@/core/trail/trail";
import { sharesUsedBy, usesOf } from "@/core/trail/uses";
import { alertsFrom } from "@/core/trail/watching";
import { wordsIn } from "@/core/text/text";
import type { Db } from "../platform/db/open";
import type { Answered, Asked, TrailQuestions } from "./questions";
import { eventsAfter, spokenAfter, spokenWith } from "../records/events/events";

type Answers = { [Q in keyof TrailQuestions]: (asked: Asked<Q>) => Promise<Answered<Q>> };

/** Answers about all events, of whatever time: a search says which instants it asks about. It takes in what has come since whenever it is asked. */
export class TrailBook implements Answers {
  private readonly trail = new Trail();
  private lastSeq = 0;

  constructor(private readonly db: Db) {}

  async catchUp() {
    for await (const piece of spokenAfter(this.db, this.trail.spoken.all.length - 1))
      for (const [number, spoken] of piece) this.trail.spoken.put(number, spoken);
    for await (const piece of eventsAfter(this.db, this.lastSeq)) {
      this.trail.take(piece);
      this.lastSeq = piece.at(-1)?.seq ?? this.lastSeq;
    }
  }

  async events({ search, before, count }: EventsAsked): Promise<EventsPage> {
    const flags = await this.prepared(search);
    const from = before && this.trail.rowBefore(before.at, before.seq);
    // One more than is shown tells whether there is more.
    const rows = this.trail.newest(search, flags, count + 1, from);
    const events = rows.slice(0, count).map((row) => this.trail.event(row));
    return { events, next: rows.length > count ? placeOf(events[count - 1]) : null };
  }

  /** The newest events, like ones of a day told as one. */
  async eventGroups({ search, zone, before, count }: GroupsAsked): Promise<GroupsPage> {
    const flags = await this.prepared(search);
    const day = new Intl.DateTimeFormat("en-CA", { timeZone: zone, dateStyle: "short" });
    const from = before && this.trail.rowBefore(before.at, before.seq);
    const { groups, next } = groupsOf(this.trail, search, flags, (at) => day.format(at * 1000), count, from);
    const lines = groups.map(({ newest, ...rest }): EventGroupLine => ({ ...rest, event: this.trail.event(newest) }));
    return { groups: lines, next: next === null ? null : placeOf(this.trail.event(next)) };
  }

  async eventCounts({ search, zone }: Asked<"eventCounts">): Promise<TrailCounts> {
    return trailCounts(this.trail, search, await this.prepared(search), zone);
  }

  async eventFacets({ search }: Asked<"eventFacets">): Promise<TrailFacets> {
    return trailFacets(this.trail, search, await this.prepared(search));
  }

  async wouldHaveRaised({ watch, from, to }: Asked<"wouldHaveRaised">): Promise<number> {
    const search = { ...watch.search, from, to };
    const rows = this.trail.find(search, await this.prepared(search));
    const events = function* (trail: Trail) {
      for (const row of rows) yield trail.event(row);
    };
    return alertsFrom(watch, events(this.trail));
  }

  async uses({ shares, from }: Asked<"uses">) {
    await this.catchUp();
    return usesOf(this.trail, shares, from);
  }

  async usedBy({ organisations }: Asked<"usedBy">) {
    await this.catchUp();
    return sharesUsedBy(this.trail, new Set(organisations));
  }

  private async prepared({ words }: TrailSearch): Promise<FlagsOfWord> {
    await this.catchUp();
    const flags = new Map<string, Uint8Array>();
    for (const word of wordsIn(words)) flags.set(word, this.trail.spoken.flagged(await spokenWith(this.db, word)));
    return (word) => flags.get(word)!;
  }
}

function placeOf({ at, seq }: TrailEvent) {
  return { at, seq };
}
