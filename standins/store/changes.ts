import { randomUUID } from "node:crypto";
import { z } from "zod";
import type { GrantRecord, LinkRecord, StoreRecord } from "../../core/estate/records";
import { now, nowText } from "../parts/clock";
import type { StoreDatabase } from "./database";

export const changeSchema = z.object({
  key: z.string().min(8),
  change: z.discriminatedUnion("action", [
    z.object({ action: z.literal("revoke"), shareId: z.string() }),
    z.object({ action: z.literal("set-expiry"), shareId: z.string(), expiresAt: z.iso.datetime({ precision: 0 }) }),
  ]),
});
export type Change = z.infer<typeof changeSchema>["change"];

export interface Answer {
  status: 200 | 404 | 409 | 422;
  body: { record?: LinkRecord | GrantRecord; error?: string };
}

/**
 * Carries a change out, once for each key: the same key again gets the first answer again. Refusals
 * are kept as well, so that a key always has one answer.
 */
export function applyOnce(db: StoreDatabase, store: StoreRecord, key: string, change: Change): Answer {
  return db.transaction(() => {
    const before = db.answerTo(key);
    if (before) return before as Answer;
    const answer = apply(db, store, change);
    db.keepAnswer(key, answer.status, answer.body);
    return answer;
  });
}

function apply(db: StoreDatabase, store: StoreRecord, change: Change): Answer {
  const share = db.get<LinkRecord>("link", change.shareId) ?? db.get<GrantRecord>("grant", change.shareId);
  if (!share) return { status: 404, body: { error: `There is no share ${change.shareId} in ${store.name}.` } };
  if (share.revokedAt) return { status: 409, body: { record: share, error: "This share has been revoked already." } };
  const refusal = change.action === "set-expiry" ? refusedExpiry(store, share, change.expiresAt) : undefined;
  if (refusal) return { status: 422, body: { error: refusal } };
  const record =
    change.action === "revoke" ? { ...share, revokedAt: nowText() } : { ...share, expiresAt: change.expiresAt };
  db.put(record);
  db.addAct({
    type: "event",
    id: randomUUID(),
    at: nowText(),
    actorId: null,
    actorEmail: "tight-latch@wrenmoor.example",
    verb: change.action === "revoke" ? "revoked" : "expiry-set",
    itemId: share.itemId,
    shareId: share.id,
  });
  return { status: 200, body: { record } };
}

function refusedExpiry(store: StoreRecord, share: LinkRecord | GrantRecord, expiresAt: string): string | undefined {
  const { linkExpiry, grantExpiry, minExpiryLeadHours } = store.capabilities;
  const possible = share.type === "link" ? linkExpiry.includes(share.reach) : grantExpiry.includes(share.role);
  if (!possible) return `${store.name} can't set an end date on this share.`;
  const earliest = now().getTime() + minExpiryLeadHours * 3_600_000;
  if (Date.parse(expiresAt) < earliest)
    return `${store.name} wants an end date at least ${minExpiryLeadHours} hours ahead.`;
  return undefined;
}
