import { type Estate, storeAt } from "../estate/estate";
import { canEnd } from "./latches";

/** How long before its end a store wants to be told of it, and how many of some shares that holds for. */
export interface StoreNotice {
  store: string;
  hours: number;
  shares: number;
}

/** The stores that need notice of an end, for those of some shares whose end they keep themselves. */
export function noticesOf(estate: Estate, ids: readonly string[]): StoreNotice[] {
  const notices = new Map<string, StoreNotice>();
  for (const id of ids) {
    const share = estate.share(id);
    if (!share) continue;
    const { name, capabilities } = storeAt(estate, share.position);
    if (capabilities.minExpiryLeadHours === 0 || !canEnd(share, capabilities)) continue;
    const notice = notices.get(name) ?? { store: name, hours: capabilities.minExpiryLeadHours, shares: 0 };
    notice.shares++;
    notices.set(name, notice);
  }
  return [...notices.values()];
}
