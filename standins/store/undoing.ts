import { z } from "zod";
import { normaliseAddress } from "../../core/estate/address";
import {
  type GrantRecord,
  type GroupRecord,
  type LinkRecord,
  REACHES,
  recordSchemas,
  ROLES,
  type StoreRecord,
} from "../../core/estate/records";
import { nowText } from "../parts/clock";
import { type Answer, done, newLink, note, refused } from "./answers";
import type { StoreDatabase } from "./database";
import { factsToTell, NO_PASSWORD_FACTS } from "./passwords";

const password = z.string().min(1).max(200).optional();

/** What takes changes back: an administrator's interface that puts things as they were. */
export const undoing = [
  z.object({
    action: z.literal("put-back"),
    shareId: z.string(),
    was: z
      .strictObject({
        expiresAt: z.iso.datetime({ precision: 0 }).nullable(),
        role: z.enum([...ROLES, "deposit"]),
        download: z.boolean(),
        password: z.boolean(),
        reach: z.enum(REACHES),
        listed: z.boolean(),
        recipients: recordSchemas.link.shape.recipients,
        opensAt: z.iso.datetime({ precision: 0 }).nullable(),
        message: z.string().max(2_000).nullable(),
        revokedAt: z.null(),
      })
      .partial(),
    password,
  }),
  z.object({ action: z.literal("remake-link"), shareId: z.string(), password }),
  z.object({
    action: z.literal("join-group"),
    groupId: z.string(),
    memberIds: z.array(z.string()).min(1),
    address: z.string(),
  }),
  z.object({ action: z.literal("inherit"), itemId: z.string() }),
] as const;
type Undoing = z.infer<(typeof undoing)[number]>;
type Of<A extends Undoing["action"]> = Extract<Undoing, { action: A }>;

/** A share with some settings as they were; of a link with a password that it had before, a new one has to come with it. */
export function putBack(db: StoreDatabase, store: StoreRecord, { shareId, was, password }: Of<"put-back">): Answer {
  const share = db.get<LinkRecord>("link", shareId) ?? db.get<GrantRecord>("grant", shareId);
  if (!share) return refused(404, `There is no share ${shareId} in ${store.name}.`);
  if (share.revokedAt && (share.type === "link" || was.revokedAt === undefined))
    return refused(409, "This share has been revoked.");
  if (was.password && password === undefined) return refused(422, "A password has to come with this.");
  const facts = was.password === undefined ? {} : was.password ? factsToTell(store, password!) : NO_PASSWORD_FACTS;
  const record = { ...share, ...was, ...facts } as LinkRecord | GrantRecord;
  db.put(record);
  if (was.password) db.setPassword(shareId, password!);
  note(db, "put-back", { itemId: share.itemId, shareId });
  return done({ at: nowText(), record, gone: false });
}

/** A link like one that was revoked, with an address of its own. */
export function remakeLink(db: StoreDatabase, store: StoreRecord, { shareId, password }: Of<"remake-link">): Answer {
  const old = db.get<LinkRecord>("link", shareId);
  if (!old) return refused(404, `There is no link ${shareId} in ${store.name}.`);
  if (!old.revokedAt) return refused(409, "This link has not been revoked.");
  if (old.password && password === undefined) return refused(422, "A password has to come with this.");
  const facts = old.password ? factsToTell(store, password!) : NO_PASSWORD_FACTS;
  const record: LinkRecord = { ...old, ...newLink(), ...facts, lastUsedAt: null, revokedAt: null, uses: 0 };
  db.put(record);
  if (old.password) db.setPassword(record.id, password!);
  note(db, `shared-${old.reach}`, { itemId: old.itemId, shareId: record.id });
  return done({ at: nowText(), record, gone: false });
}

export function joinGroup(db: StoreDatabase, store: StoreRecord, change: Of<"join-group">): Answer {
  const { groupId, memberIds, address } = change;
  if (!db.get<GroupRecord>("group", groupId)) return refused(404, `There is no group ${groupId} in ${store.name}.`);
  const theirs = db.peopleAt(normaliseAddress(address));
  if (!memberIds.every((id) => theirs.includes(id)))
    return refused(404, `${store.name} knows nobody at ${address} by that id.`);
  if (db.membersOf(groupId).some(({ memberId }) => theirs.includes(memberId)))
    return refused(409, "This person is a member already.");
  const records = memberIds.map((memberId) => ({ type: "member" as const, groupId, memberId }));
  for (const record of records) db.put(record);
  note(db, "joined-group", { target: groupId });
  return done(...records.map((record) => ({ at: nowText(), record, gone: false })));
}
