import { randomBytes, randomUUID } from "node:crypto";
import { z } from "zod";
import { normaliseAddress } from "../../core/estate/address";
import type {
  EstateRecord,
  EventRecord,
  GrantRecord,
  GroupRecord,
  ItemRecord,
  LinkRecord,
  StoreRecord,
} from "../../core/estate/records";
import { ROLES } from "../../core/estate/records";
import { now, nowText } from "../parts/clock";
import type { StoreDatabase } from "./database";
import { TELLS_PASSWORDS } from "./stores";
import { NO_PASSWORD_FACTS, passwordFacts } from "./passwords";

export const changeSchema = z.object({
  key: z.string().min(8),
  change: z.discriminatedUnion("action", [
    z.object({ action: z.literal("revoke"), shareId: z.string() }),
    z.object({ action: z.literal("set-expiry"), shareId: z.string(), expiresAt: z.iso.datetime({ precision: 0 }) }),
    z.object({ action: z.literal("set-password"), shareId: z.string(), password: z.string().min(1).max(200) }),
    z.object({ action: z.literal("block-download"), shareId: z.string() }),
    z.object({ action: z.literal("set-role"), shareId: z.string(), role: z.enum(ROLES) }),
    z.object({ action: z.literal("narrow"), shareId: z.string(), addresses: z.array(z.email()).min(1) }),
    z.object({ action: z.literal("make-link"), shareId: z.string(), addresses: z.array(z.email()).min(1) }),
    z.object({ action: z.literal("drop-recipient"), shareId: z.string(), address: z.string() }),
    z.object({ action: z.literal("leave-group"), groupId: z.string(), address: z.string() }),
    z.object({ action: z.literal("stop-inheriting"), itemId: z.string() }),
  ]),
});
export type Change = z.infer<typeof changeSchema>["change"];

/** A record as it is after a change, or one that is no more. */
interface Changed {
  at: string;
  record: EstateRecord;
  gone: boolean;
}

export interface Answer {
  status: 200 | 404 | 409 | 422;
  body: { entries?: Changed[]; error?: string };
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
  switch (change.action) {
    case "leave-group":
      return leaveGroup(db, store, change.groupId, change.address);
    case "stop-inheriting":
      return stopInheriting(db, store, change.itemId);
    default:
      return changeShare(db, store, change);
  }
}

type ShareChange = Extract<Change, { shareId: string }>;
const SHARE_VERBS = {
  revoke: "revoked",
  "set-expiry": "expiry-set",
  "set-password": "password-set",
  "block-download": "block-set",
  "set-role": "role-lowered",
  narrow: "narrowed",
  "make-link": "shared-named",
  "drop-recipient": "recipient-dropped",
};

function changeShare(db: StoreDatabase, store: StoreRecord, change: ShareChange): Answer {
  const share = db.get<LinkRecord>("link", change.shareId) ?? db.get<GrantRecord>("grant", change.shareId);
  if (!share) return refused(404, `There is no share ${change.shareId} in ${store.name}.`);
  if (share.revokedAt && change.action !== "make-link") return refused(409, "This share has been revoked already.");
  const item = db.get<ItemRecord>("item", share.itemId)!;
  const refusal = refusedChange(store, share, item, change);
  if (refusal) return refused(422, refusal);
  const record = changedShare(store, share, change);
  if (!record) return refused(404, "This address is not among the recipients.");
  db.put(record);
  if (change.action === "set-password") db.setPassword(share.id, change.password);
  note(db, SHARE_VERBS[change.action], { itemId: share.itemId, shareId: record.id });
  return done({ at: nowText(), record, gone: false });
}

/** The share as it is after a change; undefined where the change is about nothing that is there. */
export function changedShare(
  store: StoreRecord,
  share: LinkRecord | GrantRecord,
  change: ShareChange,
): LinkRecord | GrantRecord | undefined {
  switch (change.action) {
    case "revoke":
      return { ...share, revokedAt: nowText() };
    case "set-expiry":
      return { ...share, expiresAt: change.expiresAt };
    case "block-download":
      return { ...share, download: false };
    case "set-role":
      return { ...share, role: change.role } as LinkRecord | GrantRecord;
    case "set-password":
      return share.type === "link"
        ? {
            ...share,
            password: true,
            ...(store.id === TELLS_PASSWORDS ? passwordFacts(change.password) : NO_PASSWORD_FACTS),
          }
        : undefined;
    case "narrow":
      return share.type === "link" ? { ...share, ...forNamed(change.addresses) } : undefined;
    case "make-link":
      return share.type === "link"
        ? { ...share, ...forNamed(change.addresses), ...newLink(), lastUsedAt: null, revokedAt: null, uses: 0 }
        : undefined;
    case "drop-recipient":
      return withoutRecipient(share, change.address);
  }
}

function forNamed(addresses: readonly string[]) {
  const recipients = addresses.map((email) => ({ email }));
  return { reach: "named" as const, recipients, listed: false, password: false, ...NO_PASSWORD_FACTS };
}

function newLink() {
  return { id: randomUUID(), address: randomBytes(16).toString("hex"), createdAt: nowText() };
}

function withoutRecipient(share: LinkRecord | GrantRecord, dropped: string): LinkRecord | undefined {
  if (share.type !== "link") return undefined;
  const address = normaliseAddress(dropped);
  const left = share.recipients.filter(({ email }) => normaliseAddress(email) !== address);
  return left.length < share.recipients.length ? { ...share, recipients: left } : undefined;
}

function leaveGroup(db: StoreDatabase, store: StoreRecord, groupId: string, address: string): Answer {
  if (!db.get<GroupRecord>("group", groupId)) return refused(404, `There is no group ${groupId} in ${store.name}.`);
  const ids = new Set(db.peopleAt(normaliseAddress(address)));
  const memberships = db.membersOf(groupId).filter(({ memberId }) => ids.has(memberId));
  if (memberships.length === 0) return refused(404, "This person is not a member of the group itself.");
  for (const record of memberships) db.remove(record);
  note(db, "left-group", { target: groupId });
  return done(...memberships.map((record) => ({ at: nowText(), record, gone: true })));
}

function stopInheriting(db: StoreDatabase, store: StoreRecord, itemId: string): Answer {
  const item = db.get<ItemRecord>("item", itemId);
  if (!item) return refused(404, `There is no item ${itemId} in ${store.name}.`);
  if (!item.inherits || item.parentId === null) return refused(409, "This item inherits nothing already.");
  const record = { ...item, inherits: false };
  db.put(record);
  note(db, "inheritance-stopped", { itemId });
  return done({ at: nowText(), record, gone: false });
}

function done(...entries: Changed[]): Answer {
  return { status: 200, body: { entries } };
}

function refused(status: 404 | 409 | 422, error: string): Answer {
  return { status, body: { error } };
}

function note(db: StoreDatabase, verb: string, about: Pick<EventRecord, "itemId" | "shareId" | "target">) {
  db.addAct({
    type: "event",
    id: randomUUID(),
    at: nowText(),
    actorId: null,
    actorEmail: "tight-latch@wrenmoor.example",
    verb,
    ...about,
  });
}

/** Why the store won't do it, or undefined. */
function refusedChange(
  store: StoreRecord,
  share: LinkRecord | GrantRecord,
  { kind }: ItemRecord,
  change: ShareChange,
): string | undefined {
  const { capabilities, name } = store;
  switch (change.action) {
    case "set-expiry":
      return refusedExpiry(store, share, change.expiresAt);
    case "set-password":
      return share.type === "link" && share.reach === "open" && capabilities.linkPassword
        ? undefined
        : `${name} can't set a password on this share.`;
    case "block-download": {
      const { on, roles } = capabilities.downloadBlock;
      return on.includes(kind) && (roles as string[]).includes(share.role)
        ? undefined
        : `${name} can't block downloads on this share.`;
    }
    case "set-role":
      return (ROLES as readonly string[]).indexOf(share.role) > ROLES.indexOf(change.role)
        ? undefined
        : "A role can only be lowered here.";
    case "narrow":
    case "make-link":
      return share.type === "link" &&
        capabilities.namedLinks &&
        (change.action !== "narrow" || capabilities.changeReach)
        ? undefined
        : `${name} can't do this to the share.`;
    default:
      return undefined;
  }
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
