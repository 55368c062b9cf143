import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import { normaliseAddress } from "../../core/estate/address";
import type { GrantRecord, GroupRecord, ItemRecord, LinkRecord, StoreRecord } from "../../core/estate/records";
import { ROLES } from "../../core/estate/records";
import { now, nowText } from "../parts/clock";
import type { StoreDatabase } from "./database";
import { factsToTell, NO_PASSWORD_FACTS } from "./passwords";
import { making, moveIntake, newGrantOn, newLinkOn } from "./newShares";
import { type Answer, done, newLink, note, refused } from "./answers";
import { joinGroup, putBack, remakeLink, undoing } from "./undoing";

export const changeSchema = z.object({
  key: z.string().min(8),
  change: z.discriminatedUnion("action", [
    z.object({ action: z.literal("revoke"), shareId: z.string() }),
    z.object({ action: z.literal("set-expiry"), shareId: z.string(), expiresAt: z.iso.datetime({ precision: 0 }) }),
    z.object({ action: z.literal("set-password"), shareId: z.string(), password: z.string().min(1).max(200) }),
    z.object({ action: z.literal("block-download"), shareId: z.string() }),
    z.object({ action: z.literal("set-role"), shareId: z.string(), role: z.enum(ROLES) }),
    z.object({ action: z.literal("narrow"), shareId: z.string(), addresses: z.array(mailAddress).min(1) }),
    z.object({ action: z.literal("make-link"), shareId: z.string(), addresses: z.array(mailAddress).min(1) }),
    z.object({ action: z.literal("drop-recipient"), shareId: z.string(), address: z.string() }),
    z.object({ action: z.literal("leave-group"), groupId: z.string(), address: z.string() }),
    z.object({ action: z.literal("stop-inheriting"), itemId: z.string() }),
    z.object({
      action: z.literal("hand-over"),
      itemId: z.string(),
      address: z.string(),
      links: z.array(z.string()).max(10_000),
    }),
    z.object({
      action: z.literal("set-start"),
      shareId: z.string(),
      opensAt: z.iso.datetime({ precision: 0 }).nullable(),
    }),
    z.object({ action: z.literal("set-words"), shareId: z.string(), message: z.string().max(2_000).nullable() }),
    ...making,
    ...undoing,
  ]),
});
export type Change = z.infer<typeof changeSchema>["change"];

/**
 * Carries a change out, once for each key: the same key again gets the first answer again. Refusals
 * are kept as well, so that a key always has one answer.
 */
export function applyOnce(db: StoreDatabase, store: StoreRecord, key: string, change: Change): Answer {
  return db.transaction(() => {
    const before = db.answerTo(key);
    if (before) return before as Answer;
    db.changing = key;
    const answer = apply(db, store, change);
    db.changing = null;
    db.keepAnswer(key, answer.status, answer.body);
    return answer;
  });
}

function apply(db: StoreDatabase, store: StoreRecord, change: Change): Answer {
  switch (change.action) {
    case "leave-group":
      return leaveGroup(db, store, change.groupId, change.address);
    case "join-group":
      return joinGroup(db, store, change);
    case "stop-inheriting":
    case "inherit":
      return setInherits(db, store, change.itemId, change.action === "inherit");
    case "hand-over":
      return handOver(db, store, change);
    case "put-back":
      return putBack(db, store, change);
    case "remake-link":
      return remakeLink(db, store, change);
    case "new-link":
      return newLinkOn(db, store, change);
    case "new-grant":
      return newGrantOn(db, store, change);
    case "move-intake":
      return moveIntake(db, store, change);
    default:
      return changeShare(db, store, change);
  }
}

type ShareChange = Exclude<
  Extract<Change, { shareId: string }>,
  { action: "put-back" | "remake-link" | "move-intake" }
>;
const SHARE_VERBS = {
  revoke: "revoked",
  "set-expiry": "expiry-set",
  "set-password": "password-set",
  "block-download": "block-set",
  "set-role": "role-lowered",
  narrow: "narrowed",
  "make-link": "shared-named",
  "drop-recipient": "recipient-dropped",
  "set-start": "start-set",
  "set-words": "words-set",
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
      return share.type === "link" ? { ...share, password: true, ...factsToTell(store, change.password) } : undefined;
    case "narrow":
      return share.type === "link" ? { ...share, ...forNamed(change.addresses) } : undefined;
    case "make-link":
      return share.type === "link"
        ? { ...share, ...forNamed(change.addresses), ...newLink(), lastUsedAt: null, revokedAt: null, uses: 0 }
        : undefined;
    case "set-start":
      return share.type === "link" ? { ...share, opensAt: change.opensAt } : undefined;
    case "set-words":
      return share.type === "link" ? { ...share, message: change.message } : undefined;
    case "drop-recipient":
      return withoutRecipient(share, change.address);
  }
}

function forNamed(addresses: readonly string[]) {
  const recipients = addresses.map((email) => ({ email }));
  return { reach: "named" as const, recipients, listed: false, password: false, ...NO_PASSWORD_FACTS };
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

function setInherits(db: StoreDatabase, store: StoreRecord, itemId: string, inherits: boolean): Answer {
  const item = db.get<ItemRecord>("item", itemId);
  if (!item) return refused(404, `There is no item ${itemId} in ${store.name}.`);
  if (item.parentId === null) return refused(409, "There is nothing above this item.");
  if (item.inherits === inherits) return refused(409, `This item inherits ${inherits ? "" : "nothing "}already.`);
  const record = { ...item, inherits };
  db.put(record);
  note(db, inherits ? "inheritance-resumed" : "inheritance-stopped", { itemId });
  return done({ at: nowText(), record, gone: false });
}

/** Gives an item another owner, and makes them the maker of some links on it. */
function handOver(
  db: StoreDatabase,
  store: StoreRecord,
  { itemId, address, links }: Extract<Change, { action: "hand-over" }>,
): Answer {
  const item = db.get<ItemRecord>("item", itemId);
  if (!item) return refused(404, `There is no item ${itemId} in ${store.name}.`);
  const [ownerId] = db.peopleAt(normaliseAddress(address));
  if (ownerId === undefined) return refused(404, `${store.name} doesn’t know ${address}.`);
  const records = links.map((id) => db.get<LinkRecord>("link", id)).filter((link) => link?.itemId === itemId);
  const changed = [{ ...item, ownerId }, ...records.map((link) => ({ ...link!, createdBy: ownerId }))];
  for (const record of changed) db.put(record);
  note(db, "owner-changed", { itemId, target: ownerId });
  return done(...changed.map((record) => ({ at: nowText(), record, gone: false })));
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
    case "set-start":
      return capabilities.startTime ? undefined : `${name} can't keep a start on links.`;
    case "set-words":
      return capabilities.visitorWords ? undefined : `${name} can't change what visitors read.`;
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
