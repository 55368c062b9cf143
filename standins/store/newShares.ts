import { randomUUID } from "node:crypto";
import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import { normaliseAddress } from "../../core/estate/address";
import {
  type GrantRecord,
  type ItemRecord,
  type LinkRecord,
  type Reach,
  REACHES,
  type StoreRecord,
} from "../../core/estate/records";
import { now, nowText } from "../parts/clock";
import { type Answer, done, newLink, note, refused } from "./answers";
import type { StoreDatabase } from "./database";
import { isLive } from "./opening";
import { factsToTell, NO_PASSWORD_FACTS } from "./passwords";

const instant = z.iso.datetime({ precision: 0 });
const made = {
  itemId: z.string(),
  by: mailAddress,
  role: z.enum(["view", "comment", "edit"]),
  download: z.boolean(),
  expiresAt: instant.nullable(),
  /** Whoever asks ends it themselves: the end is none of the store's. */
  endsByOrder: z.literal(true).optional(),
};

/** What makes shares, and places for files to come in. A password is the text itself, or false for none. */
export const making = [
  z.object({
    action: z.literal("new-link"),
    ...made,
    reach: z.enum(REACHES),
    addresses: z.array(mailAddress).max(200),
    password: z.string().min(1).max(200).or(z.literal(false)),
    opensAt: instant.nullable(),
    maxUses: z.int().positive().nullable(),
  }),
  z.object({ action: z.literal("new-grant"), ...made, address: mailAddress }),
  z.object({
    action: z.literal("move-intake"),
    shareId: z.string(),
    folder: z.string().min(1).max(200),
    password: z.string().min(1).max(200).optional(),
  }),
] as const;
type Making = z.infer<(typeof making)[number]>;
type Of<A extends Making["action"]> = Extract<Making, { action: A }>;

const ABILITIES: Record<Reach, "openLinks" | "houseLinks" | "namedLinks"> = {
  ...{ open: "openLinks", house: "houseLinks", named: "namedLinks" },
};

export function newLinkOn(db: StoreDatabase, store: StoreRecord, change: Of<"new-link">): Answer {
  const item = db.get<ItemRecord>("item", change.itemId);
  const { reach, role, download, password, opensAt, maxUses, addresses } = change;
  const refusal = refusedMaking(db, store, item, change) ?? refusedLink(store, change);
  if (refusal) return refused(422, refusal);
  const record: LinkRecord = {
    ...{ type: "link", itemId: change.itemId, reach, role, download, opensAt, maxUses, uses: 0, listed: false },
    ...{ expiresAt: endOf(change), recipients: addresses.map((email) => ({ email })), lastUsedAt: null },
    ...{ password: password !== false, createdBy: makerOf(db, item!, change.by)! },
    ...(password === false ? NO_PASSWORD_FACTS : factsToTell(store, password)),
    ...newLink(),
  };
  db.put(record);
  if (password !== false) db.setPassword(record.id, password);
  note(db, `shared-${reach}`, { itemId: change.itemId, shareId: record.id });
  return done({ at: nowText(), record, gone: false });
}

export function newGrantOn(db: StoreDatabase, store: StoreRecord, change: Of<"new-grant">): Answer {
  const item = db.get<ItemRecord>("item", change.itemId);
  const [toId] = db.peopleAt(normaliseAddress(change.address));
  if (toId === undefined) return refused(404, `${store.name} doesn’t know ${change.address}.`);
  const isKept = (store.capabilities.grantExpiry as string[]).includes(change.role);
  const refusal =
    refusedMaking(db, store, item, change) ??
    (endOf(change) !== null && !isKept ? `${store.name} can't set an end date on this share.` : undefined);
  if (refusal) return refused(422, refusal);
  const { itemId, role, download } = change;
  const record: GrantRecord = {
    ...{ type: "grant", id: randomUUID(), itemId, toId, role, download, expiresAt: endOf(change) },
    ...{ grantedBy: makerOf(db, item!, change.by)!, grantedAt: nowText(), lastUsedAt: null },
  };
  db.put(record);
  note(db, "granted", { itemId, shareId: record.id, target: toId });
  return done({ at: nowText(), record, gone: false });
}

/** An empty folder beside an intake link's, or in it where it is a space, and a link like it on the new one. */
export function moveIntake(
  db: StoreDatabase,
  store: StoreRecord,
  { shareId, folder, password }: Of<"move-intake">,
): Answer {
  const old = db.get<LinkRecord>("link", shareId);
  const item = old && db.get<ItemRecord>("item", old.itemId);
  if (!old || !item || old.role !== "deposit")
    return refused(404, `There is no intake link ${shareId} in ${store.name}.`);
  if (old.revokedAt) return refused(409, "This link has been revoked.");
  if (old.password && password === undefined) return refused(422, "A password has to come with this.");
  const place: ItemRecord = {
    ...item,
    ...{ id: randomUUID(), parentId: item.parentId ?? item.id, kind: "folder", name: folder, inherits: true },
    ...{ createdAt: nowText(), modifiedAt: nowText(), state: "live" },
  };
  const facts = old.password ? factsToTell(store, password!) : NO_PASSWORD_FACTS;
  const link: LinkRecord = { ...old, ...newLink(), ...facts, itemId: place.id, lastUsedAt: null, uses: 0 };
  db.put(place);
  db.put(link);
  if (old.password) db.setPassword(link.id, password!);
  note(db, "created", { itemId: place.id });
  note(db, "shared-intake", { itemId: place.id, shareId: link.id });
  return done({ at: nowText(), record: place, gone: false }, { at: nowText(), record: link, gone: false });
}

/** Whoever asked, where the store knows them, or else the owner of the item or of what it lies in. */
function makerOf(db: StoreDatabase, item: ItemRecord, by: string): string | null {
  const [asker] = db.peopleAt(normaliseAddress(by));
  if (asker !== undefined) return asker;
  let at: ItemRecord | undefined = item;
  while (at && at.ownerId === null && at.parentId !== null) at = db.get<ItemRecord>("item", at.parentId);
  return at?.ownerId ?? null;
}

const endOf = ({ endsByOrder, expiresAt }: Pick<Of<"new-link">, "endsByOrder" | "expiresAt">) =>
  endsByOrder ? null : expiresAt;

/** Why nothing can be made there at all, or not so, or undefined. */
function refusedMaking(
  db: StoreDatabase,
  { name, capabilities }: StoreRecord,
  item: ItemRecord | undefined,
  change: Of<"new-link"> | Of<"new-grant">,
): string | undefined {
  if (!item || !isLive(db, item)) return `There is no item ${change.itemId} in ${name}.`;
  if (makerOf(db, item, change.by) === null) return `${name} doesn't know who makes this share.`;
  const end = endOf(change);
  const earliest = now().getTime() + capabilities.minExpiryLeadHours * 3_600_000;
  if (end !== null && Date.parse(end) < earliest)
    return `${name} wants an end date at least ${capabilities.minExpiryLeadHours} hours ahead.`;
  const { on, roles } = capabilities.downloadBlock;
  const isHonoured = change.role !== "edit" && on.includes(item.kind) && (roles as string[]).includes(change.role);
  return change.download || isHonoured ? undefined : `${name} can't block downloads on this share.`;
}

function refusedLink({ name, capabilities }: StoreRecord, change: Of<"new-link">): string | undefined {
  const { reach, password, opensAt, maxUses } = change;
  if (!capabilities[ABILITIES[reach]]) return `${name} can't make ${reach} links.`;
  if (endOf(change) !== null && !capabilities.linkExpiry.includes(reach))
    return `${name} can't set an end date on this share.`;
  if (password !== false && !(reach === "open" && capabilities.linkPassword))
    return `${name} can't set a password on this share.`;
  if (opensAt !== null && !capabilities.startTime) return `${name} can't keep a start on links.`;
  return maxUses !== null && !capabilities.maxUses ? `${name} can't limit uses.` : undefined;
}
