import { type Estate, storeAt } from "../estate/estate";
import { dayWords } from "../register/words";
import { canEnd } from "../rules/latches";
import { HOUR, seconds, type Seconds } from "../time/instant";
import type { Change } from "./change";

/** Whether a change can be done in its store; if not, why, and what can be done instead. */
export type Verdict = { can: true } | { can: false; why: string; instead: string };

export function verdictOn(estate: Estate, change: Change, t: Seconds): Verdict {
  const share = estate.shareById.get(change.shareId);
  if (!share) return no("This share isn't in the estate any more.", "Take the change out.");
  if (share.revoked <= t) return no("It has been revoked already.", "Take the change out.");
  if (change.action === "revoke") return { can: true };
  const store = storeAt(estate, share.position);
  if (!canEnd(share.record, store.capabilities))
    return no(`${store.name} keeps no end date on ${kindWords(share.record)}.`, "Revoke it, or leave it as it is.");
  const end = seconds(change.expiresAt);
  if (end <= t) return no("The end date lies in the past.", "Choose a later day, or revoke it.");
  const earliest = t + store.capabilities.minExpiryLeadHours * HOUR;
  if (end < earliest)
    return no(
      `${store.name} wants an end at least ${store.capabilities.minExpiryLeadHours} hours ahead.`,
      `Choose ${dayWords(earliest + 24 * HOUR)} or later, or revoke it.`,
    );
  return { can: true };
}

function no(why: string, instead: string): Verdict {
  return { can: false, why, instead };
}

function kindWords(record: { type: string; reach?: string; role: string }): string {
  return record.type === "link" ? `${record.reach} links` : `grants to ${record.role}`;
}
