import type { Estate, Share } from "../estate/estate";
import type { Seconds } from "../time/instant";

/** Whether a share, were its item live, lets people in at t. Ends are half-open: dead at the very instant. */
export function isOnAt(share: Share, t: Seconds): boolean {
  return share.revoked > t && share.opens <= t && share.expires > t && !share.spent;
}

export function isLiveShare(estate: Estate, share: Share, t: Seconds): boolean {
  return estate.tree.live[share.position] === 1 && isOnAt(share, t);
}

/** Live, not a deposit link, and open to anyone or to at least one outsider by name. */
export function isOutsideShare(estate: Estate, share: Share, t: Seconds): boolean {
  return isLiveShare(estate, share, t) && reachesOutside(estate, share);
}

/** Whether a share's audience holds anyone from outside, were it live. */
export function reachesOutside(estate: Estate, share: Share): boolean {
  if (share.audience.kind === "open") return true;
  return share.audience.kind === "people" && share.audience.people.some((index) => !estate.people[index].insider);
}

export function outsidersOf(estate: Estate, share: Share): number[] {
  if (share.audience.kind !== "people") return [];
  return [...share.audience.people].filter((index) => !estate.people[index].insider);
}
