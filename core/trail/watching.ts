import { DAY, type Seconds } from "../time/instant";
import type { TrailEvent, Spoken } from "./event";
import { meets, PARTS_WITH_PEOPLE } from "./meets";
import type { EventWatch } from "./watch";

/** How long similar events belong to one alert; after that they raise another. */
export const ONE_ALERT_S = DAY;

/** Instants of the events that count, by what they are counted by, in the order of time. */
export type Hits = Map<string, Seconds[]>;

/** Looks at events as they come, and says which of them raise an alert. */
export class Watching {
  private readonly isMet: (event: TrailEvent) => boolean;

  /** @param hits the hits so far, where the watch is for many in a short time */
  constructor(
    private readonly watch: Pick<EventWatch, "search" | "many">,
    private readonly hits: Hits = new Map(),
  ) {
    this.isMet = meets(watch.search);
  }

  /**
   * Looks at one event.
   * @returns what it counts towards, where it meets the search, and whether that raises an alert or belongs to one
   */
  look(event: TrailEvent): { key: string; raises: boolean } | undefined {
    const key = this.isMet(event) ? keyOf(event, this.watch.many) : undefined;
    return key === undefined ? undefined : { key, raises: this.isEnough(key, event) };
  }

  private isEnough(key: string, event: TrailEvent): boolean {
    const { many } = this.watch;
    if (many === null) return true;
    const times = this.hits.get(key) ?? [];
    // Events may come late: each counts at its own time.
    let place = times.length;
    while (place > 0 && times[place - 1] > event.at) place--;
    times.splice(place, 0, event.at);
    this.hits.set(key, times);
    const from = event.at - many.seconds;
    let within = 0;
    for (let i = place; i >= 0 && times[i] > from; i--) within++;
    return within > many.moreThan;
  }
}

/** How many alerts a watch would have raised from events in the order of time. */
export function alertsFrom(watch: Pick<EventWatch, "search" | "many">, events: Iterable<TrailEvent>): number {
  const watching = new Watching(watch);
  const begun = new Map<string, Seconds>();
  let alerts = 0;
  for (const event of events) {
    const seen = watching.look(event);
    if (!seen?.raises) continue;
    const first = begun.get(seen.key);
    if (first !== undefined && event.at < first + ONE_ALERT_S) continue;
    begun.set(seen.key, event.at);
    alerts++;
  }
  return alerts;
}

/** Alerts are one for a share and a person; where many are counted, for what they are counted by. */
function keyOf(event: TrailEvent, many: EventWatch["many"]): string | undefined {
  const place = event.share?.key ?? event.item?.key ?? "";
  const person = event.who?.key ?? "";
  switch (many?.by) {
    case undefined:
      return `${place}\n${person}`;
    case "person":
      return person || undefined;
    case "share":
      return event.share?.key;
    case "item":
      return event.item?.key;
    case "organisation":
      return peopleIn(event).flatMap(({ organisations }) => organisations ?? [])[0];
  }
}

function peopleIn(event: TrailEvent): Spoken[] {
  return PARTS_WITH_PEOPLE.flatMap((part) => event[part] ?? []);
}
