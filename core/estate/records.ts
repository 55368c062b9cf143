import { z } from "zod";
import { normaliseDomain } from "./address";
import { isMailAddress } from "./mailAddress";

/** The records of the estate file, version 1. `docs/estate-file.md` describes them for other programs. */

/** RFC 3339 has a year 0000; we hold the years from 0001 to 9999. */
const instant = z.iso
  .datetime({ precision: 0, error: "is not a time such as 2026-10-05T08:00:00Z" })
  .refine((text) => text >= "0001", { error: "is before the year 0001" });
const id = z.string().min(1);
const address = z.string().refine((text) => isMailAddress(text.trim()), { error: "is not an e-mail address" });

export const ROLES = ["view", "comment", "edit", "manage"] as const;
export const PERSON_STATES = ["active", "suspended", "left"] as const;
export const LABELS = ["public", "internal", "confidential", "restricted"] as const;
export const REACHES = ["open", "house", "named"] as const;
export const KINDS = ["space", "folder", "file"] as const;
export const STANCES = ["trusted", "personal", "denied"] as const;

export type Role = (typeof ROLES)[number];
export type Label = (typeof LABELS)[number];
export type Reach = (typeof REACHES)[number];
export type Kind = (typeof KINDS)[number];
export type Stance = (typeof STANCES)[number];

const capabilities = z.object({
  openLinks: z.boolean(),
  houseLinks: z.boolean(),
  namedLinks: z.boolean(),
  intakeLinks: z.boolean(),
  linkPassword: z.boolean(),
  linkExpiry: z.array(z.enum(REACHES)),
  grantExpiry: z.array(z.enum(ROLES)),
  minExpiryLeadHours: z.number().nonnegative(),
  downloadBlock: z.object({ on: z.array(z.enum(KINDS)), roles: z.array(z.enum(ROLES)) }),
  /** Whether an open or house link can be made a named one and keep its address. Left out, it can't. */
  changeReach: z.boolean().nullish(),
  /** Whether what visitors of an intake link read can be set. Left out, it can't. */
  visitorWords: z.boolean().nullish(),
  maxUses: z.boolean(),
  startTime: z.boolean(),
  lastUse: z.boolean(),
  perRecipientUse: z.boolean(),
});
export type Capabilities = z.infer<typeof capabilities>;

const recipient = z.object({
  email: address,
  firstOpenedAt: instant.nullish(),
  lastOpenedAt: instant.nullish(),
  downloads: z.int().nonnegative().nullish(),
});

export const recordSchemas = {
  estate: z.object({
    type: z.literal("estate"),
    version: z.literal(1),
    asOf: instant,
    homeDomains: z.array(z.string().min(1)).min(1),
  }),
  store: z.object({
    type: z.literal("store"),
    id,
    name: z.string(),
    capabilities,
    /** Where its files are kept, as the organisation calls it. */
    region: z.string().nullish(),
  }),
  person: z.object({
    type: z.literal("person"),
    id,
    email: address,
    name: z.string(),
    status: z.enum(PERSON_STATES).default("active"),
    department: z.string().nullish(),
    managerId: id.nullish(),
    /** Their last instant here; for somebody still active, one that is planned. */
    leftAt: instant.nullish(),
    /** For somebody suspended: since when. */
    suspendedAt: instant.nullish(),
  }),
  group: z.object({
    type: z.literal("group"),
    id,
    name: z.string(),
    storeId: id.nullish(),
    /** The address at which mail reaches the whole group. */
    email: address.nullish(),
    /** The id or the address of the directory's group that this one is: then that one's members count. */
    sameAs: z.string().min(1).nullish(),
  }),
  member: z.object({ type: z.literal("member"), groupId: id, memberId: id }),
  item: z.object({
    type: z.literal("item"),
    id,
    storeId: id,
    parentId: id.nullable(),
    kind: z.enum(KINDS),
    name: z.string(),
    ownerId: id.nullable(),
    label: z.enum(LABELS).nullable(),
    inherits: z.boolean().default(true),
    state: z.enum(["live", "binned", "gone"]).default("live"),
    createdAt: instant,
    modifiedAt: instant,
    size: z.number().nonnegative().nullish(),
    mediaType: z.string().nullish(),
  }),
  grant: z.object({
    type: z.literal("grant"),
    id,
    itemId: id,
    toId: id,
    role: z.enum(ROLES),
    download: z.boolean().default(true),
    expiresAt: instant.nullable(),
    grantedBy: id,
    grantedAt: instant,
    lastUsedAt: instant.nullable(),
    revokedAt: instant.nullish(),
  }),
  link: z
    .object({
      type: z.literal("link"),
      id,
      itemId: id,
      reach: z.enum(REACHES),
      role: z.enum(["view", "comment", "edit", "deposit"]),
      password: z.boolean(),
      download: z.boolean().default(true),
      opensAt: instant.nullable(),
      expiresAt: instant.nullable(),
      maxUses: z.int().nonnegative().nullable(),
      uses: z.int().nonnegative(),
      listed: z.boolean(),
      recipients: z.array(recipient),
      createdBy: id,
      createdAt: instant,
      lastUsedAt: instant.nullable(),
      revokedAt: instant.nullish(),
      address: z.string().nullish(),
      /** What its visitors are told; null where that is the store's own text, left out where nobody tells. */
      message: z.string().nullish(),
      /** What a store tells of a password without telling it: its length, whether it is on a list of those that many
       * people choose, and a mark that is the same for the same password. */
      passwordLength: z.int().nonnegative().max(65_535).nullish(),
      passwordCommon: z.boolean().nullish(),
      passwordMark: z
        .string()
        .regex(/^[0-9a-f]{8,}$/, "must be hexadecimal digits")
        .nullish(),
    })
    .refine((link) => link.role !== "deposit" || link.reach === "open", {
      path: ["reach"],
      error: "of a deposit link must be open",
    }),
  party: z.object({ type: z.literal("party"), domain: z.string().min(1), stance: z.enum(STANCES) }),
  engagement: z.object({
    type: z.literal("engagement"),
    id,
    name: z.string(),
    itemIds: z.array(id),
    organisations: z.array(z.string().min(1)),
    startsAt: instant,
    endsAt: instant,
  }),
  event: z.object({
    type: z.literal("event"),
    id,
    at: instant,
    actorId: id.nullable(),
    actorEmail: z.string().nullish(),
    verb: z.string().min(1),
    itemId: id.nullish(),
    shareId: id.nullish(),
    target: z.string().nullish(),
    ip: z.string().nullish(),
    detail: z.record(z.string(), z.unknown()).nullish(),
  }),
};

export type RecordType = keyof typeof recordSchemas;
export type RecordOf<T extends RecordType> = z.infer<(typeof recordSchemas)[T]>;
export type EstateRecord = { [T in RecordType]: RecordOf<T> }[RecordType];

export type StoreRecord = RecordOf<"store">;
export type PersonRecord = RecordOf<"person">;
export type GroupRecord = RecordOf<"group">;
export type ItemRecord = RecordOf<"item">;
export type GrantRecord = RecordOf<"grant">;
export type LinkRecord = RecordOf<"link">;
export type PartyRecord = RecordOf<"party">;
/** What can be removed. Shares are revoked instead, items binned, and people leave. */
export type Removable = RecordOf<"member"> | PartyRecord;
export type EngagementRecord = RecordOf<"engagement">;
export type EventRecord = RecordOf<"event">;
export type ShareRecord = GrantRecord | LinkRecord;

/** What identifies a record among those of its type: its id, or what it is about. */
export function recordKey(record: EstateRecord): string {
  switch (record.type) {
    case "estate":
      return "estate";
    case "member":
      return `${record.groupId}\u0000${record.memberId}`;
    case "party":
      return normaliseDomain(record.domain);
    default:
      return record.id;
  }
}
