import { DAY, type Seconds } from "../time/instant";
import type { Act, Spoken } from "./act";
import { meets, PARTS_WITH_PEOPLE } from "./meets";
import type { ActWatch } from "./watch";

/** Like acts belong to one alert for so long; after that they raise another. */
export const ONE_ALERT_S = DAY;

/** Instants of the acts that count, by what they are counted by, in the order of time. */
export type Hits = Map<string, Seconds[]>;

/** Looks at acts as they come, and says which of them raise an alert. */
export class Watching {
  private readonly isMet: (act: Act) => boolean;

  /** @param hits those so far, where the watch is for many in a short time */
  constructor(
    private readonly watch: Pick<ActWatch, "search" | "many">,
    private readonly hits: Hits = new Map(),
  ) {
    this.isMet = meets(watch.search);
  }

  /** What an act is counted by, where it meets the search and is counted; undefined where it doesn't matter. */
  counts(act: Act): string | undefined {
    return this.isMet(act) ? keyOf(act, this.watch.many) : undefined;
  }

  /** The alert that an act raises, or belongs to; undefined where there is none. */
  look(act: Act): string | undefined {
    const key = this.counts(act);
    const { many } = this.watch;
    if (key === undefined || many === null) return key;
    const times = this.hits.get(key) ?? [];
    // Acts may come late: each counts at its own time.
    let place = times.length;
    while (place > 0 && times[place - 1] > act.at) place--;
    times.splice(place, 0, act.at);
    this.hits.set(key, times);
    const from = act.at - many.seconds;
    let within = 0;
    for (let i = place; i >= 0 && times[i] > from; i--) within++;
    return within > many.moreThan ? key : undefined;
  }
}

/** How many alerts a watch would have raised from acts in the order of time. */
export function alertsFrom(watch: Pick<ActWatch, "search" | "many">, acts: Iterable<Act>): number {
  const watching = new Watching(watch);
  const begun = new Map<string, Seconds>();
  let alerts = 0;
  for (const act of acts) {
    const key = watching.look(act);
    const first = key === undefined ? undefined : begun.get(key);
    if (key === undefined || (first !== undefined && act.at < first + ONE_ALERT_S)) continue;
    begun.set(key, act.at);
    alerts++;
  }
  return alerts;
}

/** Alerts are one for a share and a person; where many are counted, for what they are counted by. */
function keyOf(act: Act, many: ActWatch["many"]): string | undefined {
  const place = act.share?.key ?? act.item?.key ?? "";
  const person = act.who?.key ?? "";
  switch (many?.by) {
    case undefined:
      return `${place}\n${person}`;
    case "person":
      return person || undefined;
    case "share":
      return act.share?.key;
    case "item":
      return act.item?.key;
    case "organisation":
      return peopleIn(act).flatMap(({ organisations }) => organisations ?? [])[0];
  }
}

function peopleIn(act: Act): Spoken[] {
  return PARTS_WITH_PEOPLE.flatMap((part) => act[part] ?? []);
}
