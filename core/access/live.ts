import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { OPEN, PEOPLE } from "../estate/shares";
import type { Seconds } from "../time/instant";

/** Whether a share, were its item live, lets people in at t. */
export function isOnAt(share: Share, t: Seconds): boolean {
  return share.revoked > t && share.opens <= t && share.expires > t && !share.spent;
}

/** Whether the share in a slot lets people in at t: it is on, and its item is live. */
export function isLiveSlot({ shares, tree }: Estate, slot: number, t: Seconds): boolean {
  return shares.position[slot] >= 0 && tree.live[shares.position[slot]] === 1 && shares.isOnAt(slot, t);
}

export function isLiveShare(estate: Estate, share: Share, t: Seconds): boolean {
  return isLiveSlot(estate, share.slot, t);
}

/** Whether a share, were it live, would let in anyone, or at least one outsider by name. */
export function leadsOutside({ shares }: Estate, slot: number): boolean {
  const audience = shares.audience[slot];
  return audience === OPEN || (audience === PEOPLE && shares.insidersFrom[slot] > shares.membersFrom[slot]);
}

/** Live, not a deposit link, and open to anyone or to at least one outsider by name. */
export function isOutsideShare(estate: Estate, share: Share, t: Seconds): boolean {
  return leadsOutside(estate, share.slot) && isLiveShare(estate, share, t);
}
