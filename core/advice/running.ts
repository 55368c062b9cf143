import type { Engagement, Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { isAtOrBelow } from "../estate/tree";
import type { Seconds } from "../time/instant";

/**
 * The engagements that run and that a share belongs to: it is on, or below, one of their items, and for anyone or for
 * somebody of their organisations.
 */
export function* runningFor(estate: Estate, share: Share, t: Seconds): Generator<Engagement> {
  for (const engagement of estate.engagements) {
    const { starts, ends, positions, organisations } = engagement;
    if (t < starts || t >= ends || !isAtOrBelow(estate.tree, share.position, positions)) continue;
    const isForThem = share.outsiders.some((index) => organisations.has(estate.people[index].organisation));
    if (share.audience === "open" || isForThem) yield engagement;
  }
}
