import type { Seconds } from "../time/instant";
import type { TrailSearch } from "./search";
import type { FlagsOfWord, Trail } from "./trail";

/** Like events of one day: one verb, one item, one share; how many of them, and by how many people. */
export interface EventGroup {
  /** Row of the newest of them. */
  newest: number;
  first: Seconds;
  count: number;
  people: number;
}

const PIECE = 4_096;

/**
 * The newest events that a search finds, with similar ones of a day combined.
 * @param dayOf the day that an instant lies in, as a number or text that stays the same within a day
 * @returns the groups of as many whole days as it takes to reach a number of them, and the row before which to continue
 */
export function groupsOf(
  trail: Trail,
  search: TrailSearch,
  flags: FlagsOfWord,
  dayOf: (at: Seconds) => string,
  wanted: number,
  before = trail.length,
): { groups: EventGroup[]; next: number | null } {
  const groups: EventGroup[] = [];
  let today = new Map<string, EventGroup & { who: Set<number> }>();
  let day: string | null = null;
  const close = () => {
    for (const { who, ...group } of today.values()) groups.push({ ...group, people: who.size });
    today = new Map();
  };
  for (let from = before; ;) {
    const rows = trail.newest(search, flags, PIECE, from);
    for (const row of rows) {
      if (dayOf(trail.at[row]) !== day) {
        close();
        if (groups.length >= wanted) return { groups, next: row + 1 };
        day = dayOf(trail.at[row]);
      }
      const { parts, at, kind } = trail;
      const key = `${kind[row]} ${parts.item[row]} ${parts.share[row]} ${parts.item[row] === 0 ? parts.whom[row] : ""}`;
      const group = today.get(key) ?? { newest: row, first: at[row], count: 0, people: 0, who: new Set<number>() };
      group.count++;
      group.first = at[row];
      // Visitors by an open link are unknown.
      if (parts.who[row] > 0) group.who.add(parts.who[row]);
      today.set(key, group);
    }
    if (rows.length < PIECE) {
      close();
      return { groups, next: null };
    }
    from = rows[rows.length - 1];
  }
}
