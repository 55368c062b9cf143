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
  return (share.audience.kind === "open" || share.outsiders.length > 0) && isLiveShare(estate, share, t);
}
