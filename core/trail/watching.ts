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

  /**
   * Looks at one act.
   * @returns what it counts towards, where it meets the search, and whether that raises an alert or belongs to one
   */
  look(act: Act): { key: string; raises: boolean } | undefined {
    const key = this.isMet(act) ? keyOf(act, this.watch.many) : undefined;
    return key === undefined ? undefined : { key, raises: this.isEnough(key, act) };
  }

  private isEnough(key: string, act: Act): boolean {
    const { many } = this.watch;
    if (many === null) return true;
    const times = this.hits.get(key) ?? [];
    // Acts may come late: each counts at its own time.
    let place = times.length;
    while (place > 0 && times[place - 1] > act.at) place--;
    times.splice(place, 0, act.at);
    this.hits.set(key, times);
    const from = act.at - many.seconds;
    let within = 0;
    for (let i = place; i >= 0 && times[i] > from; i--) within++;
    return within > many.moreThan;
  }
}

/** How many alerts a watch would have raised from acts in the order of time. */
export function alertsFrom(watch: Pick<ActWatch, "search" | "many">, acts: Iterable<Act>): number {
  const watching = new Watching(watch);
  const begun = new Map<string, Seconds>();
  let alerts = 0;
  for (const act of acts) {
    const seen = watching.look(act);
    if (!seen?.raises) continue;
    const first = begun.get(seen.key);
    if (first !== undefined && act.at < first + ONE_ALERT_S) continue;
    begun.set(seen.key, act.at);
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
