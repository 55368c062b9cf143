import { isOnAt } from "../access/live";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { DAY, type Seconds } from "../time/instant";

/** How a share lets people in, in the register's terms. */
export const WAYS = ["open", "house", "named", "intake", "person", "group"] as const;
export type Way = (typeof WAYS)[number];

/** Of whether a password is asked for; a share without one has no value. */
export const PASSWORDS = ["set"] as const;
export const DOWNLOADS = ["blocked", "possible"] as const;

/** `waiting`: its start lies ahead. `spent`: past its end or its cap. `broken`: its target is gone. */
export const STATES = ["live", "waiting", "spent", "broken", "revoked"] as const;
export type State = (typeof STATES)[number];

export function wayOf(share: Share): Way {
  if (share.role === "deposit") return "intake";
  if (share.isLink) return share.reach;
  return share.group >= 0 ? "group" : "person";
}

/** How long a revoked share can be found. */
export const REVOKED_KEPT = 365 * DAY;

export function stateOf(estate: Estate, share: Share, t: Seconds): State {
  if (share.revoked <= t) return "revoked";
  if (!estate.tree.live[share.position]) return "broken";
  if (isOnAt(share, t)) return "live";
  return share.opens > t && share.expires > t && !share.spent ? "waiting" : "spent";
}

/** When a share in a state was revoked, or came to its end; null where it stands, or was used up. */
export function endedAt(state: State, { revoked, expires }: Share, t: Seconds): Seconds | null {
  if (state === "revoked") return revoked;
  return state === "spent" && expires <= t ? expires : null;
}
